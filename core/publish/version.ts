import { z } from 'zod'
import { isSafePath } from '../folio/archive'

/** A file by its content: SHA-256, in hexadecimal. */
export const ContentName = z.string().regex(/^[a-f0-9]{64}$/)
const bytes = z
  .number()
  .int()
  .nonnegative()
  .max(2 ** 40)
/** When it is released; null for at once. */
const release = z.iso.datetime().nullable()

/** What a version holds under one path. */
export const VersionFile = z.object({ sha: ContentName, size: bytes, from: release })
export type VersionFile = z.infer<typeof VersionFile>

/** One file as it is from each release on, in their order. */
const states = z
  .array(VersionFile)
  .max(200)
  .refine(all => all.every((p, i) => i === 0 || released(all[i - 1]!) < released(p)))

/**
 * One version of a publication, as the class site keeps it: the page and its feed as they are from each release on, the files beside it
 * by their paths, and whose script runs on it. It never changes; what is new is another version under the same link.
 */
export const SiteVersion = z.object({
  form: z.literal(1),
  title: z.string().max(300),
  /** `sha256-…` of the page's scripts, with a space between them, and of its style. */
  player: z.object({ script: z.string().max(200), style: z.string().max(100) }),
  /** In the order of their releases. */
  pages: states.min(1),
  /** Its feed, likewise; versions that were made before there were feeds have none. */
  feeds: states.default([]),
  /** What it tells of itself on a class page, likewise (core/publish/listing.ts). */
  listings: states.default([]),
  files: z.record(z.string().max(400).refine(isSafePath), VersionFile),
  /** Questions and how many steps each has, for which plays may be counted; null where nothing is counted. */
  counted: z
    .array(z.object({ id: z.string().max(200), steps: z.number().int().nonnegative().max(5000) }))
    .max(1000)
    .nullable(),
})
export type SiteVersion = z.infer<typeof SiteVersion>

/** When a file is released, ms since 1970; what is released at once was so always. */
export const released = ({ from }: Pick<VersionFile, 'from'>): number =>
  from === null ? Number.NEGATIVE_INFINITY : Date.parse(from)

/** The page, or its feed, as it is at a moment: that of the last release until then; null before the first. @param now ms since 1970 */
export const stateAt = (states: readonly VersionFile[], now: number): VersionFile | null =>
  states.findLast(p => released(p) <= now) ?? null

type Holds = Pick<SiteVersion, 'pages' | 'feeds' | 'listings' | 'files'>
const all = ({ pages, feeds, listings, files }: Holds) => [...pages, ...feeds, ...listings, ...Object.values(files)]
/** Bytes of all that a version holds, each content once. */
export function versionBytes(version: Holds): number {
  const sizes = new Map(all(version).map(f => [f.sha, f.size]))
  return [...sizes.values()].reduce((a, b) => a + b, 0)
}
/** All contents that a version needs. */
export const contentsOf = (version: Holds): Set<string> => new Set(all(version).map(f => f.sha))

/** From when on a state of a version is to be shown; `state`: its place among them. */
export const StateDate = z.object({ state: z.number().int().nonnegative(), from: release })
export type StateDate = z.infer<typeof StateDate>

/**
 * A version with other dates for its states; one that is not named is not shown by itself. What a state needs comes with
 * it.
 * @returns null where that is no order of its states, or changes nothing
 */
export function withDates(version: SiteVersion, dates: readonly StateDate[]): SiteVersion | null {
  const begins = version.pages.map(p => p.from)
  const dated = (from: string | null) => {
    const state = Math.max(0, begins.indexOf(from))
    return (dates.find(d => d.state >= state) ?? dates[dates.length - 1])!.from
  }
  if (!dates.length || dates.some(d => d.state >= begins.length)) return null
  const of = (files: readonly VersionFile[]) =>
    files.length ? dates.map(({ state, from }) => ({ ...files[Math.min(state, files.length - 1)]!, from })) : []
  const made = SiteVersion.safeParse({
    ...version,
    pages: of(version.pages),
    feeds: of(version.feeds),
    listings: of(version.listings),
    files: Object.fromEntries(Object.entries(version.files).map(([p, f]) => [p, { ...f, from: dated(f.from) }])),
  })
  return made.success && JSON.stringify(made.data) !== JSON.stringify(version) ? made.data : null
}
