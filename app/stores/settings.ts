import type { Paper } from '#core/folio'
import type { PenRole } from '#core/ink'

/** What the application remembers of how she works, in this browser. */
export const useSettings = defineStore('settings', () => {
  const remembered = useLocalStorage('orthograph-settings', {
    microphone: '', pen: 'pen' as string, countdown: 3, traySide: 'right' as 'left' | 'right', role: 'working' as PenRole,
    container: 'mp4' as 'mp4' | 'webm', width: 1280, mode: 'on-change' as 'steady' | 'on-change', calm: false, sampleOffered: false, sheet: 'formulas', paper: 'squared' as Paper, darkPaper: false, simulatedText: '3x − 4 = 17\nx = 7',
  }, { mergeDefaults: true })
  return { remembered }
})
