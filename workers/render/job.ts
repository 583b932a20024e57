import { z } from 'zod'
import { Box, Ledger } from '../../core/folio/model'
import { TakeEvent } from '../../core/take/events'

export const CONTAINERS = ['mp4', 'webm'] as const
export type Container = typeof CONTAINERS[number]

const ChapterSchema = z.object({ t: z.number().nonnegative(), title: z.string() })

/** A question's part in a video: its cut, and all that its pictures and sound are made from. */
export const RenderPiece = z.object({
  page: z.object({ id: z.string(), width: z.number().positive(), height: z.number().positive() }),
  frame: Box,
  /** The frame's part of the page, as an image at the size of the video or larger. */
  picture: z.instanceof(Blob),
  events: z.array(TakeEvent),
  ledger: Ledger,
  takeDuration: z.number().positive(),
  sound: z.instanceof(Blob).nullable(),
})
export type RenderPiece = z.infer<typeof RenderPiece>

export const RenderJob = z.object({
  file: z.string().regex(/^[A-Za-z0-9_-]+\.(mp4|webm)$/),
  container: z.enum(CONTAINERS),
  size: z.object({ width: z.number().int().positive(), height: z.number().int().positive() }),
  mode: z.enum(['steady', 'on-change']),
  title: z.string(),
  author: z.string(),
  pieces: z.array(RenderPiece).min(1),
  /** Chapters of the whole video, ms. */
  chapters: z.array(ChapterSchema),
})
export type RenderJob = z.infer<typeof RenderJob>

/** How far a video is: all in ms of the video, `leftMs` in ms of waiting. */
export const RenderProgress = z.object({ done: z.number(), total: z.number(), leftMs: z.number().nullable() })
export type RenderProgress = z.infer<typeof RenderProgress>

export const RenderResult = z.object({
  file: z.string(), bytes: z.number(), durationMs: z.number(), pictures: z.number(), drawn: z.number(), tookMs: z.number(), codecs: z.string(),
})
export type RenderResult = z.infer<typeof RenderResult>
