import type { FigureKind } from '#core/figures'
import { OPTION_STATES, type Corner, type Paper, type Portrait, type TextMark } from '#core/folio'
import { GUIDE_KINDS, type GuideKind } from '#core/guides'
import type { PenRole } from '#core/ink'
import type { Press } from '#core/recording'

/** What the button on a pen's barrel does: while it is held and the pen writes, or when the pen taps with it. */
export type PenButton = 'pointer' | 'eraser' | 'straight' | Press

/** What the application remembers of how she works, in this browser. */
export const useSettings = defineStore('settings', () => {
  const remembered = useLocalStorage(
    'orthograph-settings',
    {
      microphone: '',
      pen: 'pen' as string,
      countdown: 3,
      traySide: 'right' as 'left' | 'right',
      role: 'working' as PenRole,
      container: 'mp4' as 'mp4' | 'webm',
      width: 1280,
      mode: 'on-change' as 'steady' | 'on-change',
      videosByPart: false,
      chaptersByPart: false,
      calm: false,
      sampleOffered: false,
      sheet: 'formulas',
      paper: 'squared' as Paper,
      darkPaper: false,
      simulatedText: '3x − 4 = 17\nx = 7',
      penSize: 1,
      eraser: 'strokes' as 'strokes' | 'pieces',
      steady: 0.4,
      follow: true,
      textMark: 'band' as TextMark,
      byHand: false,
      letters: 13,
      guide: 'subtract' as GuideKind,
      figure: 'axes' as FigureKind,
      toScale: false,
      reason: '',
      optionTap: 'out' as (typeof OPTION_STATES)[number],
      penButton: 'pointer' as PenButton,
      signs: false,
      autoSteps: false,
      nextCountdown: 0,
      turnSeconds: 60,
      turnHold: 5,
      inkStays: false,
      tightness: 0.5,
      camera: '',
      publishingKey: '',
      /** Where pages stand on other hosts, by their folios' ids. */
      addresses: {} as Record<string, string>,
      handoutInk: 'all' as 'all' | 'first' | 'none',
      handoutColour: 'colour' as 'colour' | 'grey',
      padAddress: '',
      portraitShape: 'circle' as Portrait['shape'],
      portraitCorner: 'bottom-right' as Corner,
      portraitSize: 0.28,
    },
    { mergeDefaults: true },
  )
  // What an earlier version remembered may have another name now.
  if (!OPTION_STATES.includes(remembered.value.optionTap)) remembered.value.optionTap = 'out'
  if (!GUIDE_KINDS.some(k => k.id === remembered.value.guide)) remembered.value.guide = 'subtract'
  return { remembered }
})
