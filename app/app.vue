<script setup lang="ts">
const keys = useKeys()
const settings = useSettings()
const colour = useColorMode()
useEventListener(window, 'keydown', keys.press)
useStageKeys('Everywhere', [
  { key: 'k', label: 'List of all keys', run: () => { keys.listOpen = !keys.listOpen } },
  { key: 'l', label: 'Light or dark', run: () => { colour.preference = colour.value === 'dark' ? 'light' : 'dark' } },
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
