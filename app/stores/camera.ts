import type { Portrait } from '#core/folio'
import { listCameras, openCamera, type Camera, type CameraChoice } from '../devices/camera'
import { capturePictures, type PictureCapture, type PictureListener } from '../devices/capturePictures'

/** A take does not wait longer than this for the camera's first picture, ms. */
const FIRST_MS = 3000

/** What takes in the camera's pictures: most height of them in pixels, and when they begin to come (again). */
export interface PictureTaker {
  height: number
  picture: PictureListener
  began: () => void
}

/**
 * The camera of the teacher. It is off until she turns it on, each time the application is opened; while it is on, a
 * sign says so on every screen.
 * Which one it was, and how its picture is shown, is remembered.
 */
export const useCamera = defineStore('camera', () => {
  const settings = useSettings()
  const notices = useNotices()
  const choices = ref<CameraChoice[]>([])
  const camera = shallowRef<Camera | null>(null)
  const opening = ref(false)
  /** It went away by itself. */
  const lost = ref(false)
  const on = computed(() => camera.value !== null)
  const portrait = computed<Portrait>(() => ({
    shape: settings.remembered.portraitShape,
    corner: settings.remembered.portraitCorner,
    size: settings.remembered.portraitSize,
  }))
  /** The one she used last, else the first there is. */
  const chosen = computed(
    () => choices.value.find(c => c.id === settings.remembered.camera) ?? choices.value[0] ?? null,
  )

  let taker: PictureTaker | null = null
  let capture: PictureCapture | null = null
  let came = () => {}

  /** How the picture stands in the frame from now on. */
  function place({ shape, corner, size }: Portrait) {
    Object.assign(settings.remembered, { portraitShape: shape, portraitCorner: corner, portraitSize: size })
  }

  async function find() {
    choices.value = await listCameras()
  }

  async function switchOn(id?: string) {
    if (opening.value) return
    opening.value = true
    try {
      await find()
      if (id) settings.remembered.camera = id
      const choice = chosen.value
      close()
      if (!choice) return
      const opened = await openCamera(choice)
      opened.onLost(() => {
        if (camera.value !== opened) return
        close()
        lost.value = true
      })
      camera.value = opened
      lost.value = false
      // Devices have names once one of them has been allowed.
      await find()
      begin()
    } catch (error) {
      notices.tell(error, 'turning the camera on')
    } finally {
      opening.value = false
    }
  }

  function close() {
    void capture?.stop()
    capture = null
    camera.value?.close()
    camera.value = null
  }

  function switchOff() {
    close()
    lost.value = false
  }

  function begin() {
    if (!taker || !camera.value || capture) return
    const own = taker
    own.began()
    capture = capturePictures(
      camera.value.stream,
      own.height,
      (picture, at) => {
        came()
        taker?.picture(picture, at)
      },
      () => {
        close()
        lost.value = true
      },
    )
  }

  /**
   * Codes the camera's pictures for a take from now on; one that is turned on meanwhile joins in.
   * @returns when the first one has come, so that a take begins with a picture
   */
  async function record(next: PictureTaker): Promise<void> {
    const first = new Promise<void>(resolve => {
      came = resolve
    })
    taker = next
    if (capture) next.began()
    else begin()
    if (capture) await Promise.race([first, new Promise(r => setTimeout(r, FIRST_MS))])
  }

  /** The take begins, or goes on after a pause: the next picture stands on its own. */
  const goOn = () => capture?.askKey()

  /** Hands on the last pictures, and stops coding. */
  async function rest() {
    const last = capture,
      own = taker
    capture = null
    await last?.stop()
    // The next take may have begun meanwhile.
    if (taker === own) taker = null
    lost.value = false
  }

  return { choices, camera, opening, lost, on, portrait, place, chosen, find, switchOn, switchOff, record, goOn, rest }
})
