import type { Box } from './basics'
import { counterFrom } from './counting'
import { clamp, unionOf } from './frame'
import { afterSpace, afterTurn } from './layout'
import { newId, newQuestion, type Folio, type Ledger, type Part, type Question, type Take } from './model'
import type { Page, Patch, Space } from './page'

/** Everything of a question or folio that has a place on a page, to be moved along with it. */
function moveBoxes(folio: Folio, pageId: string, move: (box: Box) => Box) {
  for (const q of folio.questions) {
    for (const r of q.regions) {
      if (r.pageId !== pageId) continue
      const { gaps } = r
      // Between lines is at the height of a point in the region.
      if (gaps) r.gaps = gaps.map(y => move({ ...r.box, y, h: 0 }).y)
      r.box = move(r.box)
    }
    for (const item of [...q.parts, ...q.options])
      if (item.place?.pageId === pageId) item.place.box = move(item.place.box)
    for (const f of q.frames) {
      if (f.pageId !== pageId) continue
      const moved = move(f.box)
      // A frame keeps its size and shape: it goes where its top went.
      f.box = { ...f.box, x: moved.x, y: moved.y }
    }
  }
  for (const i of folio.instructions) if (i.pageId === pageId) i.box = move(i.box)
  const page = folio.pages.find(p => p.id === pageId)
  for (const patch of page?.patches ?? []) patch.box = move(patch.box)
}

/**
 * Puts empty room into a page: a strip below `y` (points on the page), or more width beside it. What is below moves
 * along.
 */
export function insertSpace(
  folio: Folio,
  pageId: string,
  room: Pick<Space, 'side' | 'y' | 'size'>,
  now = new Date(),
): void {
  const page = folio.pages.find(p => p.id === pageId)!
  const space: Space = { id: newId(), ...room, y: clamp(room.y, 0, page.height), at: now.toISOString() }
  moveBoxes(folio, pageId, box => afterSpace(box, space))
  page.spaces.push(space)
  if (space.side === 'below') page.height += space.size
  else page.width += space.size
}

/**
 * Why a page cannot be turned, or null when it can: room that was put in and recorded ink lie the way the page lies.
 */
export function rotationHindrance(page: Page, recorded: boolean): string | null {
  if (page.spaces.length) return 'This page has added room. Take the room out with undo first, then turn it.'
  return recorded ? 'Something was recorded on this page, so it stays as it lies.' : null
}

/** Turns a page a quarter clockwise, with everything on it. */
export function rotatePage(folio: Folio, pageId: string): void {
  const page = folio.pages.find(p => p.id === pageId)!
  const { height } = page
  moveBoxes(folio, pageId, box => afterTurn(box, height))
  for (const q of folio.questions) q.frames = q.frames.filter(f => f.pageId !== pageId)
  page.turns = (page.turns + 1) % 4
  const { width } = page
  page.width = height
  page.height = width
}

/** Moves a page to another place in the order. */
export function movePage(folio: Folio, from: number, to: number): void {
  const [page] = folio.pages.splice(from, 1)
  if (page) folio.pages.splice(clamp(to, 0, folio.pages.length), 0, page)
  sortByPlace(folio)
}

/**
 * Takes a page out, with the regions on it; a question that had no other region goes too unless something was recorded
 * for it.
 */
export function removePage(folio: Folio, pageId: string): void {
  folio.pages = folio.pages.filter(p => p.id !== pageId)
  for (const q of folio.questions) {
    q.regions = q.regions.filter(r => r.pageId !== pageId)
    q.frames = q.frames.filter(f => f.pageId !== pageId)
    if (q.scratch === pageId) q.scratch = null
    for (const item of [...q.parts, ...q.options]) if (item.place?.pageId === pageId) item.place = null
  }
  folio.questions = folio.questions.filter(q => q.regions.length || q.ledger)
  folio.instructions = folio.instructions.filter(i => i.pageId !== pageId)
}

/**
 * Questions stand in the order of their first regions: by page, then by column, then down. Those at one height stand
 * from left to right.
 */
export function sortByPlace(folio: Folio): void {
  const place = (q: Question) => {
    const r = q.regions[0]
    return r ? folio.pages.findIndex(p => p.id === r.pageId) * 1e6 + Math.round(r.box.y / 40) * 1e3 + r.box.x : 1e12
  }
  // Found questions keep the order in which they were read; only a newly drawn one is put in its place.
  const known = folio.questions.filter(q => q.regions.length)
  const inOrder = known.every((q, i) => i === 0 || place(known[i - 1]!) <= place(q))
  if (!inOrder && !readInColumns(folio)) folio.questions.sort((a, b) => place(a) - place(b))
  else if (readInColumns(folio))
    folio.questions.sort(
      (a, b) =>
        folio.pages.findIndex(p => p.id === a.regions[0]?.pageId) -
        folio.pages.findIndex(p => p.id === b.regions[0]?.pageId),
    )
}

/** Whether the questions of some page were read down columns, so that their heights tell nothing of their order. */
function readInColumns(folio: Folio): boolean {
  return folio.questions.some((q, i) => {
    const a = q.regions[0],
      b = folio.questions[i + 1]?.regions[0]
    return a && b && a.pageId === b.pageId && b.box.x > a.box.x + a.box.w * 0.8 && b.box.y < a.box.y - 40
  })
}

/** Takes proposed questions as they are. @param ids which; all when left out */
export function acceptProposals(folio: Folio, ids?: ReadonlySet<string>): void {
  for (const q of folio.questions) if (!ids || ids.has(q.id)) q.proposal = null
}

/**
 * Cuts a region of a question in two at a height; what is below becomes a question of its own, with the parts that
 * stand there.
 * @returns its id
 */
export function splitQuestion(folio: Folio, questionId: string, regionId: string, y: number): string | null {
  const i = folio.questions.findIndex(q => q.id === questionId)
  const q = folio.questions[i]
  const r = q?.regions.findIndex(x => x.id === regionId) ?? -1
  const region = q?.regions[r]
  if (!q || !region || y < region.box.y + 8 || y > region.box.y + region.box.h - 8) return null
  const { box, pageId } = region
  const below = newQuestion(`${q.number}b`, pageId, { ...box, y, h: box.y + box.h - y })
  const number = Number.parseInt(q.number, 10)
  if (Number.isFinite(number)) below.number = String(number + 1)
  region.box = { ...box, h: y - box.y }
  below.regions.push(...q.regions.splice(r + 1))
  const isBelow = (p: { place: Part['place'] }) =>
    p.place !== null &&
    (p.place.pageId === pageId ? p.place.box.y >= y - 1 : below.regions.some(x => x.pageId === p.place!.pageId))
  below.parts = q.parts.filter(isBelow)
  below.options = q.options.filter(isBelow)
  q.parts = q.parts.filter(p => !isBelow(p))
  q.options = q.options.filter(p => !isBelow(p))
  q.proposal = null
  folio.questions.splice(i + 1, 0, below)
  return below.id
}

/**
 * Joins a question to the one before it; its parts, options and marks go along. False when there is none before, or it
 * was recorded.
 */
export function mergeIntoPrevious(folio: Folio, questionId: string): boolean {
  const i = folio.questions.findIndex(q => q.id === questionId)
  const q = folio.questions[i],
    before = folio.questions[i - 1]
  if (!q || !before || q.ledger) return false
  before.regions.push(...q.regions)
  joinRegions(before)
  before.parts.push(...q.parts)
  if (!before.options.length) before.options = q.options
  before.marks = before.marks === null && q.marks === null ? null : (before.marks ?? 0) + (q.marks ?? 0)
  before.proposal = null
  folio.questions.splice(i, 1)
  return true
}

/** Regions of one page that touch or nearly touch become one. */
function joinRegions(q: Question) {
  const joined: Question['regions'] = []
  for (const region of q.regions) {
    const near = joined.find(
      r =>
        r.pageId === region.pageId &&
        Math.min(r.box.x + r.box.w, region.box.x + region.box.w) > Math.max(r.box.x, region.box.x) &&
        region.box.y < r.box.y + r.box.h + 40 &&
        r.box.y < region.box.y + region.box.h + 40,
    )
    if (near) near.box = unionOf([near.box, region.box])
    else joined.push(region)
  }
  q.regions = joined
}

/** Makes a question a part of the one before it, labelled as its own last part would go on. False when it cannot be. */
export function makePart(folio: Folio, questionId: string): boolean {
  const i = folio.questions.findIndex(q => q.id === questionId)
  const q = folio.questions[i],
    before = folio.questions[i - 1]
  if (!q || !before || q.ledger) return false
  const letters = before.parts.map(p => /^[a-z]$/.exec(p.label)?.[0]).filter(Boolean)
  const label = String.fromCharCode((letters.at(-1)?.charCodeAt(0) ?? 96) + 1)
  const region = q.regions[0]
  const part: Part = {
    id: newId(),
    label,
    marks: q.marks,
    answer: q.answer,
    place: region ? { pageId: region.pageId, box: region.box } : null,
  }
  const inner = q.parts.map(p => ({ ...p, label: `${label}(${p.label})` }))
  q.parts = []
  const marks = before.marks
  const { options } = before
  mergeIntoPrevious(folio, questionId)
  before.parts.push(part, ...inner)
  before.options = options
  before.marks = marks === null ? null : marks + (q.marks ?? 0)
  return true
}

/**
 * Makes a part a question: the region is cut where the part begins.
 * @returns the new question's id, or null when the part has no place
 */
export function makeQuestion(folio: Folio, questionId: string, partId: string): string | null {
  const q = folio.questions.find(x => x.id === questionId)
  const part = q?.parts.find(p => p.id === partId)
  const region = q?.regions.find(
    r => r.pageId === part?.place?.pageId && r.box.y < part.place.box.y && r.box.y + r.box.h > part.place.box.y,
  )
  if (!q || !part?.place || !region) return null
  const id = splitQuestion(folio, questionId, region.id, Math.max(region.box.y + 8, part.place.box.y - 2))
  const made = folio.questions.find(x => x.id === id)
  if (!made) return null
  made.number = `${q.number}${part.label}`
  made.marks = part.marks
  made.answer = part.answer
  made.parts = made.parts
    .filter(p => p.id !== partId && p.label.startsWith(`${part.label}(`))
    .map(p => ({ ...p, label: p.label.slice(part.label.length + 1, -1) }))
  q.parts = q.parts.filter(p => p.id !== partId)
  return made.id
}

/**
 * Numbers this question and those after it anew, counting on from a number; a letter or a Roman numeral counts in its
 * own way.
 */
export function renumberFrom(folio: Folio, questionId: string, first: string): void {
  const from = folio.questions.findIndex(q => q.id === questionId)
  const m = /^(.*?)(\d+|[A-Za-z]+)$/.exec(first.trim())
  if (from < 0 || !m) return
  const [, before, last] = m as unknown as [string, string, string]
  const count = counterFrom(last, folio.questions[from - 1]?.number ?? '')
  if (count) folio.questions.slice(from).forEach((q, i) => (q.number = before + count(i)))
}

/** Covers a piece of a page and types it anew. @returns the patch's id */
export function addPatch(folio: Folio, pageId: string, patch: Omit<Patch, 'id'>): string {
  const made = { id: newId(), ...patch }
  folio.pages.find(p => p.id === pageId)!.patches.push(made)
  return made.id
}

/** What the author of the sheet should know, one line a patch. */
export function patchList(folio: Folio): { page: number; before: string; text: string; id: string }[] {
  return folio.pages.flatMap((p, i) =>
    p.patches.map(patch => ({ page: i + 1, before: patch.before, text: patch.text, id: patch.id })),
  )
}

/**
 * A folio as it goes into a file with one take alone: that take is its question's, with `ledger`, or a clip in its
 * place.
 */
export function withTakeAlone(folio: Folio, take: Pick<Take, 'questionId' | 'id' | 'clip'>, ledger: Ledger): Folio {
  const alone: Folio = {
    ...folio,
    clips: {},
    questions: folio.questions.map(q => ({
      ...q,
      shelved: [],
      clips: {},
      ledger: !take.clip && q.id === take.questionId ? ledger : null,
    })),
  }
  putClip(alone, take)
  return alone
}

/**
 * Puts a finished clip in its place, of its question or of the folio; the words that are said in the one before are not
 * its own.
 */
export function putClip(folio: Folio, take: Pick<Take, 'id' | 'questionId' | 'clip'>): void {
  const of = take.questionId === folio.id ? folio : folio.questions.find(q => q.id === take.questionId)
  if (of && take.clip) of.clips[take.clip] = { takeId: take.id, said: '' }
}
