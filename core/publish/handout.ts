import {
  PDFArray,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNull,
  PDFNumber,
  type PDFFont,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib'
import fontkit from '@cantoo/fontkit'
import { encode } from 'uqr'
import type { Strip } from '../folio/layout'
import type { Drawing } from '../scene/scene'
import { inkOperators, type PrintColour } from './handoutInk'
import { addSheet, wordsOver, type Sheet } from './worksheet'

/** What lies under the ink of a page: the page of a file as it is, its strips where they are laid, or what is seen of it. */
export type Under =
  | {
      kind: 'pdf'
      file: number
      index: number
      strips: readonly Strip[]
      /** Where room was put into it: its words where they stand now. */
      words?: Sheet['words']
    }
  | { kind: 'sheet'; sheet: Sheet }

/** A page of a handout, in points. */
export interface HandoutPage {
  width: number
  height: number
  under: Under
  drawings: readonly Drawing[]
}

/** A place to which a bookmark leads. @property page index in the handout @property y points from the page's top */
export interface HandoutPlace {
  title: string
  page: number
  y: number
  parts: { title: string; page: number; y: number }[]
}

/** What stands on the last pages for a question: its steps, its place on the student page, its expected answers. */
export interface HandoutQuestion {
  name: string
  steps: readonly { time: string; title: string }[]
  /** Where the question is on the student page; empty where there is none. */
  link: string
  answers: readonly { part: string; answer: string }[]
}

export interface Handout {
  title: string
  /** Course, lesson, author: a line of the title block. */
  facts: readonly string[]
  pages: readonly HandoutPage[]
  places: readonly HandoutPlace[]
  questions: readonly HandoutQuestion[]
  /** Original files that pages are taken from. */
  files: readonly { bytes: Uint8Array; password: string }[]
  /** Pictures that were put on the board, by their documents. */
  pictures: ReadonlyMap<string, { kind: 'jpeg' | 'png'; data: Uint8Array }>
  colour: PrintColour
  /** Faces: the product's own, its bold, and one that has nearly every letter. */
  fonts: { plain: Uint8Array; bold: Uint8Array; wide: Uint8Array }
}

/**
 * The handout: the original pages, their text and lines as they are, with the ink over them as shapes; then each
 * question's steps, answers, and a code that leads to it on the student page. Bookmarks lead to questions and parts.
 * @returns the bytes of the PDF
 */
export async function handoutPdf(handout: Handout): Promise<Uint8Array> {
  const pdf = await PDFDocument.create({ updateMetadata: false })
  pdf.registerFontkit(fontkit as Parameters<typeof pdf.registerFontkit>[0])
  pdf.setTitle(handout.title)
  const under = await embedded(pdf, handout)
  const pictures = new Map<string, PDFRef>()
  for (const [id, { kind, data }] of handout.pictures)
    pictures.set(id, (kind === 'jpeg' ? await pdf.embedJpg(data) : await pdf.embedPng(data)).ref)
  const refs: PDFRef[] = []
  for (const [i, page] of handout.pages.entries())
    refs.push(await addPage(pdf, page, under.get(i) ?? [], pictures, handout))
  const list = await addLists(pdf, handout)
  addBookmarks(pdf, refs, handout, list)
  return pdf.save({ useObjectStreams: true })
}

/** Which pages of a file lie as they are stored, and can be taken as they are. @throws Error where it cannot be read */
export async function plainPages(bytes: Uint8Array, password: string): Promise<boolean[]> {
  const source = await opened(bytes, password)
  return source.getPages().map(p => p.getRotation().angle % 360 === 0 && !p.node.get(PDFName.of('UserUnit')))
}
const opened = (bytes: Uint8Array, password: string) =>
  PDFDocument.load(bytes, { ...(password ? { password } : {}), ignoreEncryption: !password, updateMetadata: false })

/** Original pages by the handout's pages: one form for each strip. What a file's pages share, they share here, too. */
async function embedded(pdf: PDFDocument, { pages, files }: Handout) {
  const out = new Map<number, { ref: PDFRef; strip: Strip }[]>()
  for (const [file, { bytes, password }] of files.entries()) {
    const of = pages.flatMap((p, i) =>
      p.under.kind === 'pdf' && p.under.file === file
        ? p.under.strips.map(strip => ({ i, strip, index: (p.under as { index: number }).index }))
        : [],
    )
    if (!of.length) continue
    const source = await opened(bytes, password)
    const from = of.map(({ index }) => source.getPage(index))
    const boxes = of.map(({ strip }, k) => {
      const crop = from[k]!.getCropBox()
      const top = crop.y + crop.height - strip.from
      return { left: crop.x, right: crop.x + crop.width, top, bottom: top - strip.h }
    })
    const forms = await pdf.embedPages(from, boxes)
    for (const [k, { i, strip }] of of.entries()) {
      const all = out.get(i) ?? []
      all.push({ ref: forms[k]!.ref, strip })
      out.set(i, all)
    }
  }
  return out
}

async function addPage(
  pdf: PDFDocument,
  { width, height, under, drawings }: HandoutPage,
  forms: readonly { ref: PDFRef; strip: Strip }[],
  pictures: ReadonlyMap<string, PDFRef>,
  { colour }: Handout,
): Promise<PDFRef> {
  const page = under.kind === 'sheet' ? await addSheet(pdf, under.sheet) : pdf.addPage([width, height])
  const { node } = page
  const content: string[] = []
  // Each strip holds all of the page's text, also what lies outside of it: where there are several, they say nothing
  // themselves (ISO 32000-1, 14.9.4), and the words lie over them unseen, as in the worksheet.
  const mute = forms.length > 1
  for (const [k, { ref, strip }] of forms.entries()) {
    node.setXObject(PDFName.of(`Page${k}`), ref)
    const form = `q 1 0 0 1 0 ${round(height - strip.y - strip.h)} cm /Page${k} Do Q`
    content.push(mute ? `/Span << /ActualText <FEFF> >> BDC ${form} EMC` : form)
  }
  if (mute && under.kind === 'pdf' && under.words) content.push(...wordsOver(pdf, page, height, under.words))
  const alphas = new Map<number, string>()
  const named = new Set<string>()
  content.push(
    inkOperators(drawings, height, colour, {
      alpha(value) {
        const known = alphas.get(value)
        if (known) return known
        const name = `A${alphas.size}`
        alphas.set(value, name)
        // Bands of a marker darken what lies under them and leave it readable (ISO 32000-1, 11.3.5).
        node.setExtGState(
          PDFName.of(name),
          pdf.context.obj({ Type: 'ExtGState', ca: value, CA: value, BM: 'Multiply' }),
        )
        return name
      },
      picture(id) {
        const ref = pictures.get(id)
        if (!ref) return null
        const name = `P${[...pictures.keys()].indexOf(id)}`
        if (!named.has(name)) node.setXObject(PDFName.of(name), ref)
        named.add(name)
        return name
      },
    }),
  )
  const stream = pdf.context.register(pdf.context.flateStream(content.join('\n')))
  const before = node.get(PDFName.of('Contents'))
  const all = PDFArray.withContext(pdf.context)
  if (before) all.push(before)
  all.push(stream)
  node.set(PDFName.of('Contents'), all)
  return page.ref
}

const round = (v: number) => Math.round(v * 1000) / 1000

/** Paper of the lists: A4, points, with its margins. */
const A4 = { w: 595.28, h: 841.89, margin: 48 }
const CODE = 74

interface TextLook {
  x?: number
  width?: number
  size?: number
  bold?: boolean
}

/** Writes text in whichever face has its letters. */
class Writer {
  page: PDFPage
  y = A4.margin
  constructor(
    private readonly pdf: PDFDocument,
    private readonly faces: { plain: PDFFont; bold: PDFFont; wide: PDFFont },
  ) {
    this.page = this.newPage()
  }
  newPage(): PDFPage {
    this.y = A4.margin
    return (this.page = this.pdf.addPage([A4.w, A4.h]))
  }
  /** Makes room for so much, on a new page where this one has none left. */
  room(h: number): void {
    if (this.y + h > A4.h - A4.margin) this.newPage()
  }
  /** Text that wraps at its width. @returns its height */
  text(text: string, { x = A4.margin, width = A4.w - 2 * A4.margin, size = 10, bold = false }: TextLook = {}): number {
    const lines = this.wrap(text, width, size, bold)
    const top = this.y
    for (const line of lines) {
      this.room(size * 1.35)
      let at = x
      for (const { part, font } of this.parts(line, bold)) {
        this.page.drawText(part, { x: at, y: A4.h - this.y - size, size, font })
        at += font.widthOfTextAtSize(part, size)
      }
      this.y += size * 1.35
    }
    return this.y - top
  }
  private parts(text: string, bold: boolean): { part: string; font: PDFFont }[] {
    const out: { part: string; font: PDFFont }[] = []
    const own = bold ? this.faces.bold : this.faces.plain
    const has = lettersOf(own)
    for (const letter of text) {
      const font = has.has(letter.codePointAt(0)!) ? own : this.faces.wide
      if (out.at(-1)?.font === font) out.at(-1)!.part += letter
      else out.push({ part: letter, font })
    }
    return out
  }
  private width(text: string, size: number, bold: boolean): number {
    return this.parts(text, bold).reduce((w, { part, font }) => w + font.widthOfTextAtSize(part, size), 0)
  }
  private wrap(text: string, width: number, size: number, bold: boolean): string[] {
    const out: string[] = []
    let line = ''
    // A word that is wider than the line is cut where it has to be.
    const words = text.replace(/\s+/g, ' ').trim().split(' ')
    for (const word of words) {
      const longer = line ? `${line} ${word}` : word
      if (this.width(longer, size, bold) <= width) {
        line = longer
        continue
      }
      if (line) out.push(line)
      line = ''
      for (const letter of word) {
        if (line && this.width(line + letter, size, bold) > width) {
          out.push(line)
          line = ''
        }
        line += letter
      }
    }
    return line ? [...out, line] : out
  }
  /** A QR code (ISO/IEC 18004), its top right corner at the margin. */
  code(link: string): void {
    const { data, size } = encode(link, { border: 0 })
    const one = CODE / size
    const x: number = A4.w - A4.margin - CODE
    const y: number = A4.h - this.y
    data.forEach((row, r) => {
      // Runs of dark squares, so that no hairline shows between them.
      for (let c = 0; c < size; c++) {
        if (!row[c]) continue
        let to = c
        while (to + 1 < size && row[to + 1]) to++
        this.page.drawRectangle({ x: x + c * one, y: y - (r + 1) * one, width: (to - c + 1) * one, height: one })
        c = to
      }
    })
  }
}

const known = new WeakMap<PDFFont, Set<number>>()
function lettersOf(font: PDFFont): Set<number> {
  const set = known.get(font) ?? new Set(font.getCharacterSet())
  known.set(font, set)
  return set
}

/** The last pages: of each question its steps, its code and its answers. @returns where each begins */
async function addLists(
  pdf: PDFDocument,
  { title, facts, questions, fonts }: Handout,
): Promise<{ ref: PDFRef; y: number }[]> {
  if (!questions.length) return []
  const embed = (bytes: Uint8Array) => pdf.embedFont(bytes, { subset: true })
  const faces = { plain: await embed(fonts.plain), bold: await embed(fonts.bold), wide: await embed(fonts.wide) }
  const writer = new Writer(pdf, faces)
  writer.text(title, { size: 18, bold: true })
  if (facts.length) writer.text(facts.join(' · '), { size: 10 })
  writer.y += 10
  const places: { ref: PDFRef; y: number }[] = []
  const width = A4.w - 2 * A4.margin - CODE - 16
  for (const { name, steps, link, answers } of questions) {
    writer.room(CODE + 12)
    places.push({ ref: writer.page.ref, y: writer.y })
    const { page, y: top } = writer
    if (link) writer.code(link)
    writer.text(name, { size: 12, bold: true, width })
    for (const { time, title: step } of steps) writer.text(`${time}  ${step}`, { width })
    for (const { part, answer } of answers)
      writer.text(`Answer${part ? ` ${part}` : ''}: ${answer}`, { bold: true, width })
    // Beside a code there is room for the whole of it.
    if (link && writer.page === page) writer.y = Math.max(writer.y, top + CODE)
    writer.y += 14
  }
  return places
}

/** Bookmarks (ISO 32000-1, 12.3.3): questions, in each its parts, and at the end the lists. */
function addBookmarks(
  pdf: PDFDocument,
  pages: readonly PDFRef[],
  handout: Handout,
  lists: readonly { ref: PDFRef; y: number }[],
): void {
  interface Item {
    title: string
    ref: PDFRef
    y: number
    parts: Item[]
  }
  const heightOf = (i: number) => handout.pages[i]!.height
  const items: Item[] = handout.places.map(p => ({
    title: p.title,
    ref: pages[p.page]!,
    y: heightOf(p.page) - p.y,
    parts: p.parts.map(s => ({ title: s.title, ref: pages[s.page]!, y: heightOf(s.page) - s.y, parts: [] })),
  }))
  if (lists[0]) {
    const parts = lists.map((l, i) => ({ title: handout.questions[i]!.name, ref: l.ref, y: A4.h - l.y, parts: [] }))
    items.push({ title: 'Steps and answers', ref: lists[0].ref, y: A4.h, parts })
  }
  if (!items.length) return
  const { context } = pdf
  const build = (all: readonly Item[], parent: PDFRef) => {
    const refs = all.map(() => context.nextRef())
    all.forEach((item, i) => {
      const inner = item.parts.length ? build(item.parts, refs[i]!) : null
      const dest = [item.ref, PDFName.of('XYZ'), PDFNull, PDFNumber.of(Math.round(item.y)), PDFNull]
      context.assign(
        refs[i]!,
        context.obj({
          Title: PDFHexString.fromText(item.title),
          Parent: parent,
          Dest: dest,
          ...(i ? { Prev: refs[i - 1]! } : {}),
          ...(i + 1 < refs.length ? { Next: refs[i + 1]! } : {}),
          ...(inner ? { First: inner.first, Last: inner.last, Count: -inner.count } : {}),
        }),
      )
    })
    return { first: refs[0]!, last: refs.at(-1)!, count: refs.length }
  }
  const root = context.nextRef()
  const { first, last, count } = build(items, root)
  context.assign(root, context.obj({ Type: 'Outlines', First: first, Last: last, Count: count }))
  pdf.catalog.set(PDFName.of('Outlines'), root)
  pdf.catalog.set(PDFName.of('PageMode'), PDFName.of('UseOutlines'))
}
