<script setup lang="ts">
import type { Proposal } from '#core/cut'
import { clockTime } from '#core/publish'

/** What tightening would shorten: each can be refused, the strength is one slider, and the new length is told at once. */
const props = defineProps<{ target: number | null }>()
const ledger = useLedger()
const proof = useProof()
const KINDS: Record<Proposal['kind'], string> = {
  pause: 'Pause becomes 0.4 s',
  writing: 'Silent writing goes by faster',
  start: 'Dead time at the start goes',
  end: 'Dead time at the end goes',
}
const saved = computed(() => proof.duration - ledger.tightLength)
const far = computed(() => (props.target ? ledger.tightLength - props.target * 60_000 : null))
</script>

<template>
  <section
    v-if="ledger.proposals"
    class="flex max-h-80 shrink-0 flex-col border-b border-default bg-elevated"
    aria-label="Tighten"
    data-part="tighten"
  >
    <div class="flex items-baseline gap-3 px-4 pt-3">
      <h3 class="font-semibold">Tighten</h3>
      <p
        class="serif text-lg"
        data-part="tight-length"
      >
        {{ clockTime(proof.duration) }} → {{ clockTime(ledger.tightLength) }}
      </p>
      <p class="text-sm text-toned">
        {{ (saved / 1000).toFixed(0) }} s saved<template v-if="far !== null"
          >, {{ clockTime(Math.abs(far)) }} {{ far > 0 ? 'over' : 'under' }} the target</template
        >
      </p>
    </div>
    <label class="flex items-center gap-3 px-4 py-2 text-sm"
      >A little
      <input
        v-model.number="ledger.strength"
        type="range"
        min="0"
        max="1"
        step="0.05"
        class="grow accent-(--frame)"
        aria-label="How strongly"
      />
      a lot
    </label>
    <p
      v-if="!ledger.proposals.length"
      class="px-4 pb-2 text-sm text-toned"
    >
      Nothing here is slow enough. Go farther to the right for shorter pauses.
    </p>
    <ul class="max-h-44 min-h-0 overflow-y-auto border-t border-(--rule-fine)">
      <li
        v-for="p in ledger.proposals"
        :key="p.id"
        class="flex items-center gap-3 px-4 py-1 text-sm"
        data-part="proposal"
      >
        <UCheckbox
          :model-value="!ledger.refused.has(p.id)"
          :aria-label="`${KINDS[p.kind]} at ${clockTime(p.stretch.from)}`"
          @update:model-value="ledger.refuse(p.id, $event !== true)"
        />
        <button
          type="button"
          class="serif underline-offset-2 hover:underline"
          @click="proof.goTo({ take: proof.take!.id, t: p.stretch.from })"
        >
          {{ clockTime(p.stretch.from) }}
        </button>
        <span class="grow">{{ KINDS[p.kind] }}</span>
        <span class="tabular-nums text-toned">−{{ (p.saves / 1000).toFixed(1) }} s</span>
        <UButton
          size="xs"
          color="neutral"
          variant="ghost"
          icon="i-lucide-shield"
          title="Wait for it: tightening leaves it as it is from now on"
          :aria-label="`Protect ${clockTime(p.stretch.from)}`"
          @click="ledger.keepAsIs(p)"
        />
      </li>
    </ul>
    <div class="flex gap-2 px-4 py-2">
      <UButton
        icon="i-lucide-check"
        :disabled="!ledger.wanted.length"
        @click="ledger.takeProposals"
      >
        Tighten {{ ledger.wanted.length }} {{ ledger.wanted.length === 1 ? 'place' : 'places' }}
      </UButton>
      <UButton
        color="neutral"
        variant="outline"
        @click="ledger.loosen"
      >
        As it was recorded
      </UButton>
      <UButton
        color="neutral"
        variant="ghost"
        class="ml-auto"
        @click="ledger.proposals = null"
      >
        Close
      </UButton>
    </div>
  </section>
</template>
