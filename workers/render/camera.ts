import { VideoSampleSink, type VideoSample } from 'mediabunny'
import type { Box, Portrait } from '../../core/folio/model'
import { PORTRAIT_EDGE, PORTRAIT_EDGE_WIDTH, PORTRAIT_ROUND } from '../../core/scene/portrait'
import { videoTrackOf } from '../tracks'

/** A leap ahead of more than this is made from the nearest key picture instead of picture by picture, s. */
const LEAP = 3

/** The pictures of a camera's track, one after another; only one is decoded at a time. */
export class CameraReader {
  private pictures: AsyncGenerator<VideoSample, void, unknown> | null = null
  private now: VideoSample | null = null
  private next: VideoSample | null = null

  private constructor(private readonly sink: VideoSampleSink) {}

  /** @returns null where the file holds no pictures */
  static async open(track: Blob): Promise<CameraReader | null> {
    const video = await videoTrackOf(track)
    return video && new CameraReader(new VideoSampleSink(video))
  }

  /** The picture shown at `t` ms, or null before the first. It is closed when the next one is asked for. */
  async at(t: number): Promise<VideoSample | null> {
    const s = t / 1000
    if (!this.pictures || (this.now && s < this.now.timestamp) || (this.next && s > this.next.timestamp + LEAP)) {
      await this.close()
      this.pictures = this.sink.samples(s)
      this.next = (await this.pictures.next()).value ?? null
    }
    while (this.next && (this.next.timestamp <= s || !this.now)) {
      this.now?.close()
      this.now = this.next
      this.next = (await this.pictures.next()).value ?? null
    }
    return this.now
  }

  async close(): Promise<void> {
    this.now?.close()
    this.next?.close()
    this.now = this.next = null
    await this.pictures?.return()
    this.pictures = null
  }
}

/** Draws a picture so that it fills `box`; what does not fit is left out evenly on both sides. */
export function fillBox(context: OffscreenCanvasRenderingContext2D, picture: VideoSample, box: Box): void {
  const { displayWidth: w, displayHeight: h } = picture
  const scale = Math.max(box.w / w, box.h / h)
  const sw = box.w / scale,
    sh = box.h / scale
  picture.draw(context, (w - sw) / 2, (h - sh) / 2, sw, sh, box.x, box.y, box.w, box.h)
}

/** Draws the camera's picture in its shape. @param box where it stands, in the context's unit */
export function drawPortrait(
  context: OffscreenCanvasRenderingContext2D,
  picture: VideoSample,
  shape: Portrait['shape'],
  box: Box,
): void {
  context.save()
  context.beginPath()
  if (shape === 'circle') context.ellipse(box.x + box.w / 2, box.y + box.h / 2, box.w / 2, box.h / 2, 0, 0, 2 * Math.PI)
  else context.roundRect(box.x, box.y, box.w, box.h, box.h * PORTRAIT_ROUND)
  context.save()
  context.clip()
  fillBox(context, picture, box)
  context.restore()
  context.strokeStyle = PORTRAIT_EDGE
  context.lineWidth = box.h * PORTRAIT_EDGE_WIDTH
  context.stroke()
  context.restore()
}
