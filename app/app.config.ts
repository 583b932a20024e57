export default defineAppConfig({
  ui: {
    colors: {
      primary: 'ink',
      secondary: 'graphite',
      success: 'holds',
      error: 'vermilion',
      warning: 'vermilion',
      info: 'ink',
      neutral: 'graphite',
    },
    button: { slots: { base: 'font-medium' } },
  },
})
