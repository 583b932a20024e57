/**
 * What the model and what draws it both know; nothing here reads or checks anything, so that a student's page can have
 * it.
 */

/** The frame's width over its height: that of the video. */
export const FRAME_RATIO = 16 / 9

/** Shapes of the camera's picture, and the corners it can stand in. */
export const PORTRAIT_SHAPES = ['circle', 'square', 'wide'] as const
export const CORNERS = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const
export type Corner = (typeof CORNERS)[number]

/** A fresh, unguessable, file-name-safe identifier. */
export function newId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 20)
}
