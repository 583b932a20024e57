<script setup lang="ts">
import type { Turn } from '#core/folio'
import { clockTime } from '#core/publish'
import { HOLDS, TURN_TIMES } from '../../board/turns'

/** A pause for the student in the ledger: when, for how long, and whether the video holds still. */
defineProps<{ turn: Turn; disabled: boolean }>()
const emit = defineEmits<{ seek: []; change: [change: Partial<Pick<Turn, 'seconds' | 'hold'>>]; remove: [] }>()
</script>

<template>
  <div
    class="mt-1 flex items-center gap-1.5 border-l-4 border-(--frame) bg-elevated px-2 py-1 text-sm"
    data-part="turn"
  >
    <button
      type="button"
      class="whitespace-nowrap font-semibold underline-offset-2 hover:underline"
      @click="emit('seek')"
    >
      Your turn, {{ clockTime(turn.t) }}
    </button>
    <USelect
      :model-value="turn.seconds"
      :items="TURN_TIMES"
      size="sm"
      class="w-24"
      aria-label="Suggested time"
      :disabled="disabled"
      @update:model-value="emit('change', { seconds: Number($event) })"
    />
    <USelect
      :model-value="turn.hold"
      :items="HOLDS"
      size="sm"
      class="w-26"
      aria-label="How long the video holds still"
      :disabled="disabled"
      @update:model-value="emit('change', { hold: Number($event) })"
    />
    <UButton
      class="ml-auto"
      size="sm"
      color="neutral"
      variant="ghost"
      icon="i-lucide-x"
      aria-label="Take this pause away"
      :disabled="disabled"
      @click="emit('remove')"
    />
  </div>
</template>
