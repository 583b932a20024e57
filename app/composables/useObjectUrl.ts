/** A URL for a file as long as the component is there. */
export function useObjectUrl(file: () => Blob | null) {
  const url = ref<string>()
  watch(file, (now) => {
    if (url.value) URL.revokeObjectURL(url.value)
    url.value = now ? URL.createObjectURL(now) : undefined
  }, { immediate: true })
  onBeforeUnmount(() => { if (url.value) URL.revokeObjectURL(url.value) })
  return url
}
