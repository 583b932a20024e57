import { listenToPen, type PenListener } from '../devices/pen'

export { PENS, type PenListener } from '../devices/pen'

/** Listens to pen, finger and mouse on an element as long as the component is there. */
export function usePen(element: Readonly<Ref<HTMLElement | undefined>>, listener: PenListener): void {
  onMounted(() => {
    const device = listenToPen(element.value!, listener)
    onBeforeUnmount(device.close)
  })
}
