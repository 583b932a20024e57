<script setup lang="ts">
/** The tray of pens beside the frame, on the side of the writing hand, working on what the hand works on. */
const props = defineProps<{ seen: { left: number; width: number } }>()
const bench = useBench()
const recording = useRecording()
const settings = useSettings()
const left = computed(() =>
  settings.remembered.traySide === 'right' ? props.seen.left + props.seen.width + 14 : props.seen.left - 108,
)
</script>

<template>
  <PenTray
    class="absolute"
    :style="{ left: `${left}px` }"
    :tool="bench.tool"
    :can-undo="recording.canUndo"
    :can-redo="recording.canRedo"
    @choose="bench.choose($event)"
    @undo="recording.undo"
    @redo="recording.redo"
    @side="settings.remembered.traySide = settings.remembered.traySide === 'right' ? 'left' : 'right'"
  />
</template>
