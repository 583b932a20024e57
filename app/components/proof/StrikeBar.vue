<script setup lang="ts">
import { clockTime } from '#core/publish'

/** The stretch that is marked to be taken out, and what is to become of its ink. */
const ledger = useLedger()
const settings = useSettings()
const seconds = computed(() => ((ledger.marked!.to - ledger.marked!.from) / 1000).toFixed(1))
const INK = [
  { value: 'goes', label: 'with its ink' },
  { value: 'stays', label: 'its ink stays' },
]
const ink = computed({
  get: () => (settings.remembered.inkStays ? 'stays' : 'goes'),
  set: value => {
    settings.remembered.inkStays = value === 'stays'
  },
})
</script>

<template>
  <div
    v-if="ledger.marked"
    class="flex shrink-0 flex-wrap items-center gap-2 border-b border-default bg-elevated px-4 py-2 text-sm"
    data-part="strike-bar"
  >
    <p class="flex w-full items-center gap-2">
      {{ seconds }} s from {{ clockTime(ledger.marked.from) }} are marked
      <UButton
        class="ml-auto"
        size="sm"
        color="neutral"
        variant="ghost"
        icon="i-lucide-shield"
        title="Wait for it: tightening leaves it as it is"
        @click="ledger.protect()"
      >
        Protect <kbd class="key">P</kbd>
      </UButton>
      <UButton
        size="sm"
        color="neutral"
        variant="ghost"
        icon="i-lucide-x"
        aria-label="Leave it in"
        @click="ledger.marked = null"
      />
    </p>
    <ChoiceRow
      v-model="ink"
      :items="INK"
      label="What was written there"
    />
    <UButton
      class="ml-auto h-11"
      icon="i-lucide-strikethrough"
      @click="ledger.strikeMarked()"
    >
      Strike out <kbd class="key">Del</kbd>
    </UButton>
  </div>
</template>
