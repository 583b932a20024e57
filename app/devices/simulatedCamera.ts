import type { Camera } from './camera'
import { UNPLUG_AFTER_MS } from './faults'
import { clickSignal } from './simulatedMicrophone'

type CameraFault = 'unplugged' | 'still' | 'dark'
/** Stand-ins for a camera: a drawn figure that moves. Some fail on purpose. */
export const SIMULATED_CAMERAS: readonly { id: string; label: string; fault: CameraFault | null }[] = [
  { id: 'sim:camera', label: 'Simulated: a drawn figure that talks', fault: null },
  { id: 'sim:camera-unplugged', label: 'Simulated: a figure, pulled out after 2 seconds', fault: 'unplugged' },
  { id: 'sim:camera-still', label: 'Simulated: a figure that stands still after 2 seconds', fault: 'still' },
  { id: 'sim:camera-dark', label: 'Simulated: the lid is closed', fault: 'dark' },
  { id: 'sim:camera-refused', label: 'Simulated: refused by the browser', fault: null },
]

const SIZE = { width: 640, height: 360 }
const RATE = 30
/**
 * It lights a square for so long with each click of the simulated microphone, so that picture and sound can be
 * compared, ms.
 */
const FLASH_MS = 250

/** Opens a simulated camera. @throws Trouble for the one that is refused */
export async function openSimulatedCamera(id: string): Promise<Camera> {
  if (id === 'sim:camera-refused') throw (await import('./camera')).cameraTrouble('NotAllowedError')
  const { label, fault } = SIMULATED_CAMERAS.find(c => c.id === id) ?? SIMULATED_CAMERAS[0]!
  const canvas = Object.assign(document.createElement('canvas'), SIZE)
  const context = canvas.getContext('2d', { alpha: false })!
  const began = performance.now()
  const lost: (() => void)[] = []
  let flash = Number.NEGATIVE_INFINITY
  // On when the click sounded, not when it was told: a busy machine may show the light shorter, or not, but never late.
  const onClick = (event: Event) => {
    flash = (event as CustomEvent<number>).detail
  }
  clickSignal.addEventListener('click', onClick)
  const draw = () => {
    const now = performance.now(),
      t = now - began
    if (fault === 'unplugged' && t > UNPLUG_AFTER_MS) {
      close()
      return lost.forEach(l => l())
    }
    if (fault === 'still' && t > UNPLUG_AFTER_MS) return
    drawFigure(context, t / 1000, fault === 'dark', now - flash < FLASH_MS)
  }
  draw()
  const stream = canvas.captureStream(RATE)
  const timer = setInterval(draw, 1000 / RATE)
  const close = () => {
    clearInterval(timer)
    clickSignal.removeEventListener('click', onClick)
    stream.getTracks().forEach(t => t.stop())
  }
  return { label, stream, onLost: listener => lost.push(listener), close }
}

/** A figure from head to shoulders before a wall. @param t seconds */
function drawFigure(c: CanvasRenderingContext2D, t: number, dark: boolean, flash: boolean) {
  const { width, height } = SIZE
  c.fillStyle = dark ? '#050505' : '#dfe6dc'
  c.fillRect(0, 0, width, height)
  if (dark) return
  c.fillStyle = '#c5d0bd'
  for (let x = 40; x < width; x += 120) c.fillRect(x, 30, 80, 110)
  const sway = Math.sin(t * 1.3) * 8,
    nod = Math.sin(t * 2.1) * 3
  const round = (x: number, y: number, rx: number, ry: number, colour: string) => {
    c.fillStyle = colour
    c.beginPath()
    c.ellipse(x, y, rx, ry, 0, 0, 2 * Math.PI)
    c.fill()
  }
  const x = width / 2 + sway
  round(x, 390, 150, 125, '#3f6a63')
  round(x, 268, 30, 40, '#b98968')
  round(x, 178 + nod, 72, 88, '#cc9c7a')
  round(x, 118 + nod, 76, 48, '#4c3a2e')
  round(x - 26, 174 + nod, 6, t % 3.4 < 0.12 ? 1 : 7, '#2d2722')
  round(x + 26, 174 + nod, 6, t % 3.4 < 0.12 ? 1 : 7, '#2d2722')
  round(x, 222 + nod, 20, 4 + 7 * Math.abs(Math.sin(t * 7) * Math.sin(t * 1.7)), '#7a3b34')
  if (flash) {
    c.fillStyle = '#ffffff'
    c.fillRect(x - 60, 300, 120, 60)
  }
}
