<script setup lang="ts">
/** Says plainly that the camera is on, wherever she is, and turns it off. */
const camera = useCamera()
</script>

<template>
  <div
    v-if="camera.on"
    class="flex h-11 items-center gap-2 border-2 border-(--taking) pl-3 text-sm font-bold"
    role="status"
    data-part="camera-sign"
  >
    <UIcon
      name="i-lucide-video"
      class="size-5 text-(--taking)"
    />
    Camera on
    <UButton
      color="neutral"
      variant="ghost"
      class="h-9"
      @click="camera.switchOff"
    >
      Turn off
    </UButton>
  </div>
</template>
