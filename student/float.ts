import type { Stage } from './stage'

/** Pixels across of the picture that floats. */
const WIDTH = 960

/** Whether this browser lets a picture float over its other windows (Picture-in-Picture, W3C). */
export const canFloat = (): boolean => document.pictureInPictureEnabled === true

/**
 * The board floats over other windows while she works elsewhere; it is the board and what grows on it as one film.
 * @throws DOMException where the browser refuses
 */
export async function float(stage: Stage): Promise<void> {
  if (document.pictureInPictureElement) return document.exitPictureInPicture()
  const canvas = Object.assign(document.createElement('canvas'), { width: WIDTH, height: (WIDTH * 9) / 16 })
  const context = canvas.getContext('2d', { alpha: false })!
  const paint = () => {
    for (const layer of stage.layers) if (layer.width) context.drawImage(layer, 0, 0, canvas.width, canvas.height)
  }
  const film = canvas.captureStream()
  const video = Object.assign(document.createElement('video'), { srcObject: film, muted: true })
  stage.onPainted = paint
  paint()
  const end = () => {
    stage.onPainted = () => {}
    for (const track of film.getTracks()) track.stop()
  }
  video.addEventListener('leavepictureinpicture', end, { once: true })
  try {
    await video.play()
    await video.requestPictureInPicture()
  } catch (error) {
    end()
    throw error
  }
}
