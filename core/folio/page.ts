import { z } from 'zod'
import { Box, coordinate, finite, id, line } from './basics'

/** An original file that pages come from; its bytes are stored apart. */
export const SourceDocument = z.object({
  id,
  name: line(255),
  mime: z.enum(['application/pdf', 'image/jpeg', 'image/png', 'image/webp']),
  bytes: z.number().int().nonnegative(),
  pageCount: z.number().int().positive(),
  /** What opens it, for a file that is locked; empty for most. */
  password: line(255).default(''),
})
export type SourceDocument = z.infer<typeof SourceDocument>

/** File endings of stored documents by their kind. */
export const ENDINGS: Record<SourceDocument['mime'], string> = {
  'application/pdf': 'pdf',
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
}

/** Papers a blank page can have; squares are 5 mm, lines 8 mm apart. */
export const PAPERS = ['squared', 'lined', 'dotted', 'plain'] as const
export type Paper = (typeof PAPERS)[number]

/**
 * Empty room put into a page. `below`: a strip of `size` points begins at `y`, and what was below moved down; `beside`:
 * the page is `size`
 * wider. `y` counts in the page as it was laid out when the room was made; `at` tells which takes are older.
 */
export const Space = z.object({
  id,
  side: z.enum(['below', 'beside']),
  y: coordinate,
  size: finite.positive().max(5000),
  at: z.iso.datetime(),
})
export type Space = z.infer<typeof Space>

/**
 * A piece of a page covered and typed anew; `before` is what stands under it, for the sheet's author. `size` of letters
 * in points.
 */
export const Patch = z.object({
  id,
  box: Box,
  text: line(1000),
  before: line(1000).default(''),
  size: finite.min(3).max(200),
  serif: z.boolean().default(true),
})
export type Patch = z.infer<typeof Patch>

const corner = z.object({ x: coordinate, y: coordinate })
/**
 * How a picture is made of a photo: its corners in pixels of the original, clockwise from top left, and whether light
 * is evened out.
 */
export const Cleaning = z.object({ corners: z.array(corner).length(4), even: z.boolean() })
export type Cleaning = z.infer<typeof Cleaning>

const common = {
  id,
  /** Size as it is laid out: turned, and with its added room, in points. */
  width: coordinate.positive(),
  height: coordinate.positive(),
  /** Quarter turns clockwise. */
  turns: z.number().int().min(0).max(3).default(0),
  spaces: z.array(Space).max(200).default([]),
  patches: z.array(Patch).max(500).default([]),
  /** Its name as a reference sheet; empty for a page of the folio's own work. */
  sheet: line(120).default(''),
  /** Whether students get it with the worksheet, once the teacher has chosen; missing until then. */
  handed: z.boolean().optional(),
}

/** One sheet of a folio. */
export const Page = z.discriminatedUnion('kind', [
  z.object({ ...common, kind: z.literal('pdf'), documentId: id, index: z.number().int().nonnegative() }),
  /** `original` is the photo that a cleaned picture was made from. */
  z.object({
    ...common,
    kind: z.literal('image'),
    documentId: id,
    original: id.nullable().default(null),
    cleaning: Cleaning.nullable().default(null),
  }),
  z.object({ ...common, kind: z.literal('blank'), paper: z.enum(PAPERS), dark: z.boolean().default(false) }),
  z.object({ ...common, kind: z.literal('notice') }),
  /** A table of a reference sheet that ships with the application. */
  z.object({ ...common, kind: z.literal('reference'), sheetId: line(40), sectionId: line(60) }),
])
export type Page = z.infer<typeof Page>
