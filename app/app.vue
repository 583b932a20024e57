<script setup lang="ts">
const keys = useKeys()
const settings = useSettings()
const colour = useColorMode()
useEventListener(window, 'keydown', keys.press)
// A button that was clicked with pen or mouse lets go of the keyboard, so that Space goes on meaning what the screen
// says.
useEventListener(window, 'click', event => {
  if (event.detail > 0) (event.target as HTMLElement).closest<HTMLElement>('button:not([aria-haspopup]), a')?.blur()
})
useStageKeys('Everywhere', [
  {
    key: 'k',
    label: 'List of all keys',
    run: () => {
      keys.listOpen = !keys.listOpen
    },
  },
  {
    key: 'shift+l',
    label: 'Light or dark',
    run: () => {
      colour.preference = colour.value === 'dark' ? 'light' : 'dark'
    },
  },
])
</script>

<template>
  <UApp :toaster="null">
    <div
      class="h-full"
      :class="{ calm: settings.remembered.calm }"
    >
      <NuxtPage />
      <TroubleList />
      <PromptDialog />
      <KeyList />
    </div>
  </UApp>
</template>
