import { questionName, type Folio, type Page } from '#core/folio'
import { paintBlank, wrap } from './blank'

/**
 * Paints the opening notice: the plan of the folio, set like a title block on squared paper, large enough to be read in
 * a video.
 */
export function paintNotice(context: CanvasRenderingContext2D, page: Page, folio: Folio): void {
  paintBlank(context, { paper: 'squared', dark: false }, { x: 0, y: 0, w: page.width, h: page.height })
  const left = 48,
    width = page.width - 2 * left
  const { plan } = folio
  const set = (text: string, y: number, size: number, weight = 400, x = left, w = width) => {
    context.font = `${weight} ${size}px "STIX Two Text", serif`
    const lines = wrap(context, text, w)
    lines.forEach((line, i) => context.fillText(line, x, y + i * size * 1.25))
    return y + lines.length * size * 1.25
  }
  context.textBaseline = 'alphabetic'
  context.fillStyle = '#1f3f80'
  let y = set(folio.course, 64, 17)
  context.fillStyle = '#2e2c28'
  y = set(folio.title, y + 16, 34, 600)
  if (plan.lesson) y = set(plan.lesson, y - 4, 20)
  context.fillStyle = '#8f897b'
  context.fillRect(left, y - 6, width, 1)
  y += 22
  const skipped = new Map(plan.skipped.map(s => [s.questionId, s.why]))
  const notices = new Set(folio.pages.filter(p => p.kind === 'notice').map(p => p.id))
  const assigned = folio.questions
    .filter(q => !skipped.has(q.id) && !q.regions.some(r => notices.has(r.pageId)))
    .map(q => q.number)
  const rows: [string, string][] = [
    [
      'Due',
      plan.due
        ? new Date(`${plan.due}T12:00:00`).toLocaleDateString(undefined, {
            weekday: 'long',
            day: 'numeric',
            month: 'long',
          })
        : '',
    ],
    ['Bring', plan.bring],
    ['Questions', assigned.join(', ')],
    [
      'Left out',
      folio.questions
        .filter(q => skipped.has(q.id))
        .map(q => `${questionName(q)}: ${skipped.get(q.id)}`)
        .join('; '),
    ],
    ['Then', plan.next.map(n => n.text).join(' ')],
  ]
  for (const [label, text] of rows) {
    if (!text) continue
    context.fillStyle = '#5f5a50'
    set(label, y, 14)
    context.fillStyle = '#2e2c28'
    y = set(text, y, 17, 400, left + 96, width - 96) + 8
  }
}

/** What a notice says, so that it is painted anew when the plan changes. */
export const noticeKey = (folio: Folio) =>
  JSON.stringify([folio.title, folio.course, folio.plan, folio.questions.map(q => [q.number, q.title])])
