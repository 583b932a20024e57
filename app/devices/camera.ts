import { Trouble } from '#core/folio'
import { openSimulatedCamera, SIMULATED_CAMERAS } from './simulatedCamera'

/** A camera that can be chosen, real or simulated. */
export interface CameraChoice {
  id: string
  label: string
  simulated: boolean
}

/** A camera in use. */
export interface Camera {
  label: string
  stream: MediaStream
  onLost(listener: () => void): void
  close(): void
}

/** The cameras of this machine (named once the browser has been allowed to), then the simulated ones. */
export async function listCameras(): Promise<CameraChoice[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  const real = devices
    .filter(d => d.kind === 'videoinput')
    .map((d, i) => ({ id: `device:${d.deviceId || 'default'}`, label: d.label || `Camera ${i + 1}`, simulated: false }))
  return [...real, ...SIMULATED_CAMERAS.map(({ id, label }) => ({ id, label, simulated: true }))]
}

/** Opens a camera. @throws Trouble `camera-refused`, `camera-absent`, `camera-busy`, `camera-unable` */
export async function openCamera(choice: CameraChoice): Promise<Camera> {
  if (
    typeof VideoEncoder === 'undefined' ||
    !(await VideoEncoder.isConfigSupported({ codec: 'vp8', width: 640, height: 360 })).supported
  ) {
    throw new Trouble(
      'camera-unable',
      'This browser cannot record pictures of a camera.',
      'Everything else works as before.',
      'Use another browser for the camera, or record without it.',
    )
  }
  return choice.simulated ? openSimulatedCamera(choice.id) : openDevice(choice)
}

async function openDevice(choice: CameraChoice): Promise<Camera> {
  const deviceId = choice.id.replace(/^device:/, '')
  if (!navigator.mediaDevices?.getUserMedia) throw cameraTrouble('NotFoundError')
  const stream = await navigator.mediaDevices
    .getUserMedia({
      video: {
        width: { ideal: 1280 },
        height: { ideal: 720 },
        frameRate: { ideal: 30 },
        ...(deviceId === 'default' ? {} : { deviceId: { exact: deviceId } }),
      },
    })
    .catch((error: unknown) => {
      throw cameraTrouble(error instanceof Error ? error.name : '', error)
    })
  const track = stream.getVideoTracks()[0]!
  return {
    label: track.label || choice.label,
    stream,
    onLost: listener => track.addEventListener('ended', () => listener(), { once: true }),
    close: () => stream.getTracks().forEach(t => t.stop()),
  }
}

/** A teacher's sentence for each way in which a camera can fail to open. */
export function cameraTrouble(name: string, cause?: unknown): Trouble {
  const safe = 'The camera is off; nothing else is changed.'
  if (name === 'NotAllowedError' || name === 'SecurityError') {
    return new Trouble(
      'camera-refused',
      'The browser was not allowed to use the camera.',
      safe,
      'Allow the camera for this page in the browser’s address bar, or record without it.',
      cause,
    )
  }
  if (name === 'NotFoundError' || name === 'OverconstrainedError') {
    return new Trouble(
      'camera-absent',
      'No such camera is connected.',
      safe,
      'Plug it in and turn it on again, or choose another one.',
      cause,
    )
  }
  return new Trouble(
    'camera-busy',
    'The camera could not be started; another program may be using it.',
    safe,
    'Close that program and turn the camera on again.',
    cause,
  )
}
