/** The custom properties that the student page shares with the application's interface. */
const SHARED = ['paper', 'sheet', 'square', 'rule', 'rule-fine', 'lead', 'lead-soft', 'frame', 'taking']

/**
 * The shared custom properties as the student page has them: light, dark as the device is, and dark as it was chosen.
 * @param main the interface's own style (app/assets/css/main.css)
 * @returns CSS
 * @throws Error where one is missing
 */
export function sharedTokens(main) {
  const block = selector => new RegExp(`^${selector} \\{([^}]*)\\}`, 'm').exec(main)?.[1] ?? ''
  const of = text =>
    SHARED.map(name => {
      const value = new RegExp(`--${name}: (#[0-9a-f]{6});`).exec(text)?.[1]
      if (!value) throw new Error(`app/assets/css/main.css has no --${name}`)
      return `--${name}: ${value};`
    }).join(' ')
  const [light, dark] = [of(block(':root')), of(block('\\.dark'))]
  return `:root { ${light} }
@media (prefers-color-scheme: dark) {
  :root:not([data-theme="light"]) { ${dark} }
}
:root[data-theme="dark"] { ${dark} }
`
}
