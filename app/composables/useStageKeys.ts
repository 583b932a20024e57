import type { Key } from '~/stores/keys'

/** Keys that work while the calling component is on screen. */
export function useStageKeys(name: string, keys: Key[]) {
  const store = useKeys()
  onMounted(() => store.add(name, keys))
  onBeforeUnmount(() => store.remove(name))
}
