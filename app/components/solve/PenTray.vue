<script setup lang="ts">
import { keyOfRole, PEN_ROLES, styleOf, type PenRole } from '#core/ink'
import type { Tool } from '../../board/tools'

/** The pens, at the edge of the frame near the writing hand. */
defineProps<{ tool: Tool; canUndo: boolean; canRedo: boolean }>()
const emit = defineEmits<{ choose: [tool: PenRole | 'eraser']; undo: []; redo: []; side: [] }>()
</script>

<template>
  <div
    class="tray flex flex-col border border-(--rule) bg-default"
    role="toolbar"
    aria-label="Pens"
    aria-orientation="vertical"
  >
    <button
      v-for="role in PEN_ROLES"
      :key="role"
      type="button"
      class="tool"
      :class="{ chosen: tool === role }"
      :aria-pressed="tool === role"
      :title="`${styleOf(role).label}: ${styleOf(role).use}`"
      @click="emit('choose', role)"
    >
      <svg
        viewBox="0 0 44 14"
        class="h-3.5 w-11"
        fill="none"
        stroke-linecap="round"
        :stroke="styleOf(role).colour"
      >
        <path
          d="M5 9c6-7 10-7 14-2s9 4 19-2"
          :stroke-width="{ solid: 2.6, band: 9, fine: 1.3, double: 4.6, dashed: 2 }[styleOf(role).line]"
          :stroke-dasharray="styleOf(role).line === 'dashed' ? '5 4' : undefined"
          :stroke-opacity="styleOf(role).line === 'band' ? 0.55 : 1"
        />
        <path
          v-if="styleOf(role).line === 'double'"
          d="M5 9c6-7 10-7 14-2s9 4 19-2"
          stroke="#ffe9e2"
          stroke-width="1.4"
        />
      </svg>
      <span
        >{{ styleOf(role).label }} <kbd class="key">{{ keyOfRole(role) }}</kbd></span
      >
    </button>
    <button
      type="button"
      class="tool"
      :class="{ chosen: tool === 'eraser' }"
      :aria-pressed="tool === 'eraser'"
      title="Takes strokes off the board, whole or in pieces"
      @click="emit('choose', 'eraser')"
    >
      <UIcon
        name="i-lucide-eraser"
        class="size-5"
      />
      <span>Eraser <kbd class="key">E</kbd></span>
    </button>
    <div class="grid grid-cols-2 border-t border-default">
      <UButton
        color="neutral"
        variant="ghost"
        class="h-11 justify-center"
        icon="i-lucide-undo-2"
        :disabled="!canUndo"
        aria-label="Undo"
        title="Undo (Ctrl Z)"
        @click="emit('undo')"
      />
      <UButton
        color="neutral"
        variant="ghost"
        class="h-11 justify-center"
        icon="i-lucide-redo-2"
        :disabled="!canRedo"
        aria-label="Redo"
        title="Redo (Ctrl Y)"
        @click="emit('redo')"
      />
    </div>
    <UButton
      color="neutral"
      variant="ghost"
      size="sm"
      class="h-11 justify-center border-t border-default text-xs"
      icon="i-lucide-arrow-left-right"
      title="Put the pens on the other side"
      @click="emit('side')"
    >
      Side
    </UButton>
  </div>
</template>

<style scoped>
.tray {
  width: 5.875rem;
}
.tool {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 0.25rem;
  min-height: 3.25rem;
  font-size: 0.8125rem;
  border-left: 4px solid transparent;
  border-right: 4px solid transparent;
}
.tool:hover {
  background: var(--ui-bg-elevated);
}
.tool.chosen {
  background: var(--ui-bg-elevated);
  border-left-color: var(--frame);
  font-weight: 700;
}
</style>
