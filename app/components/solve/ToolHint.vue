<script setup lang="ts">
/** What can be typed for the tool in hand. */
defineProps<{ text: string }>()
</script>

<template>
  <UPopover>
    <UButton
      color="neutral"
      variant="ghost"
      class="h-11"
      icon="i-lucide-info"
      aria-label="What can be typed"
    />
    <template #content>
      <p class="max-w-80 p-3 text-sm">
        {{ text }}
      </p>
    </template>
  </UPopover>
</template>
