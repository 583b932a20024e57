import { z } from 'zod'
import { Trouble } from '#core/folio'
import { PRESSES, type Press } from '#core/recording'

const Opened = z.object({ code: z.string(), key: z.string(), addresses: z.array(z.string()) })
const Addresses = z.object({ addresses: z.array(z.string()) })

/** The pad: large buttons on a phone or a second tablet, while it is turned on. */
export const usePad = defineStore('pad', () => {
  const notices = useNotices()
  const settings = useSettings()
  /** Addresses of this machine at which another device can find the pad. */
  const addresses = ref<string[]>([])
  const address = computed({
    get: () => addresses.value.find(a => a === settings.remembered.padAddress) ?? addresses.value[0] ?? '',
    set: (v: string) => {
      settings.remembered.padAddress = v
    },
  })
  const headers = computed(() => ({ 'x-publishing-key': settings.remembered.publishingKey }))
  const opened = shallowRef<z.infer<typeof Opened> | null>(null)
  /** What a press of the pad, or of a pen's button, does; set by the screen that can do it. */
  let act: (press: Press) => void = () => {}
  let presses: EventSource | null = null

  async function findAddresses() {
    const found = Addresses.safeParse(await $fetch('/api/pad', { headers: headers.value }).catch(() => null))
    addresses.value = found.data?.addresses ?? []
  }

  async function switchOn() {
    try {
      opened.value = Opened.parse(
        await $fetch('/api/pad', {
          method: 'POST',
          headers: headers.value,
          body: address.value ? { address: address.value } : {},
        }),
      )
      presses = new EventSource(`/api/pad/presses?key=${encodeURIComponent(opened.value.key)}`)
      presses.onmessage = ({ data }: MessageEvent<string>) => {
        const press = PRESSES.find(p => p === data)
        if (press) act(press)
      }
    } catch (error) {
      if ((error as { statusCode?: unknown }).statusCode === 409)
        return notices.tell(
          new Trouble(
            'pad-in-use',
            'A pad is in use with another tab.',
            'It goes on there.',
            'Turn it off there first.',
            error,
          ),
          'turning the pad on',
        )
      notices.tell(
        new Trouble(
          'pad-closed',
          'The pad could not be turned on.',
          'Keys and buttons here work as ever.',
          'The application has to run on this machine for it.',
          error,
        ),
        'turning the pad on',
      )
    }
  }

  async function switchOff() {
    const { key } = opened.value ?? {}
    presses?.close()
    presses = null
    opened.value = null
    if (key) await $fetch('/api/pad', { method: 'DELETE', query: { key } }).catch(() => {})
  }

  /** Tells the pad what there is to see. */
  function tell(state: { says: string; taking: boolean; warning: string }) {
    if (opened.value)
      void $fetch('/api/pad/state', { method: 'PUT', query: { key: opened.value.key }, body: state }).catch(() => {})
  }

  function onPress(listener: (press: Press) => void) {
    act = listener
    return () => {
      act = () => {}
    }
  }

  return {
    opened,
    addresses,
    address,
    findAddresses,
    switchOn,
    switchOff,
    tell,
    onPress,
    press: (press: Press) => act(press),
  }
})
