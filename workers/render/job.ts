import { z } from 'zod'
import { Frame, Ledger, Take } from '../../core/folio/model'
import { Page } from '../../core/folio/page'
import { TakeEvent } from '../../core/recording/events/schemas'

export const CONTAINERS = ['mp4', 'webm'] as const
export type Container = (typeof CONTAINERS)[number]

const ChapterSchema = z.object({ t: z.number().nonnegative(), title: z.string() })

/** A clip of the teacher: it fills the picture. */
export const ClipPiece = z.object({
  clip: z.instanceof(Blob).nullable(),
  duration: z.number().positive(),
  sound: z.instanceof(Blob).nullable(),
})
export type ClipPiece = z.infer<typeof ClipPiece>

/** A take and its settled log. */
const RecordedTake = z.object({
  take: Take.pick({ durationMs: true, frame: true, startedAt: true, gaps: true, camera: true }),
  events: z.array(TakeEvent),
})

/** A question's part in a video: what its edition is made from, and all that its pictures and sound need beside. */
export const RenderPiece = z.object({
  source: RecordedTake.extend({
    ledger: Ledger,
    pages: z.array(Page),
    others: z.record(z.string(), RecordedTake).optional(),
  }),
  /**
   * The frames of the edition, the first first: each with its page and its picture, at the size of the video or larger.
   */
  views: z
    .array(
      z.object({
        page: z.object({
          id: z.string(),
          width: z.number().positive(),
          height: z.number().positive(),
          dark: z.boolean().optional(),
        }),
        frame: Frame,
        picture: z.instanceof(Blob),
      }),
    )
    .min(1),
  /** Pictures that were put on the board. */
  documents: z.array(z.object({ id: z.string(), picture: z.instanceof(Blob) })).default([]),
  /** The sounds of its takes, by their ids. */
  sounds: z.record(z.string(), z.instanceof(Blob)),
  /** The camera's tracks of the takes that have one, by their ids. */
  tracks: z.record(z.string(), z.instanceof(Blob)).default({}),
})
export type RenderPiece = z.infer<typeof RenderPiece>

/** Everything a video is made from. */
export const RenderJob = z.object({
  file: z.string().regex(/^[A-Za-z0-9_-]+\.(mp4|webm)$/),
  container: z.enum(CONTAINERS),
  size: z.object({ width: z.number().int().positive(), height: z.number().int().positive() }),
  mode: z.enum(['steady', 'on-change']),
  title: z.string(),
  author: z.string(),
  /**
   * What follows one another in it. `video`: the finished video of just these pieces, in the same container and size,
   * whose pictures are taken
   * over as they are; where one part has such a video, all have but those made of clips alone.
   */
  parts: z
    .array(
      z.object({ pieces: z.array(z.union([ClipPiece, RenderPiece])).min(1), video: z.instanceof(Blob).nullable() }),
    )
    .min(1),
  /** Chapters of the whole video, ms. */
  chapters: z.array(ChapterSchema),
})
export type RenderJob = z.infer<typeof RenderJob>

/** How far a video is: all in ms of the video, `leftMs` in ms of waiting. */
export const RenderProgress = z.object({ done: z.number(), total: z.number(), leftMs: z.number().nullable() })
export type RenderProgress = z.infer<typeof RenderProgress>

export const RenderResult = z.object({
  file: z.string(),
  bytes: z.number(),
  durationMs: z.number(),
  pictures: z.number(),
  drawn: z.number(),
  tookMs: z.number(),
  codecs: z.string(),
})
export type RenderResult = z.infer<typeof RenderResult>

/** The sound of an edition as a replay plays it. */
export const LessonSoundJob = z.object({
  plan: z.array(z.object({ at: z.number(), ms: z.number(), take: z.string(), from: z.number().nullable() })),
  sounds: z.record(z.string(), z.instanceof(Blob)),
})
export type LessonSoundJob = z.infer<typeof LessonSoundJob>
