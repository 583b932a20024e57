<script setup lang="ts">
import { LINE_SIGNS, signsFor } from '#core/maths/line/signs'

/** Digits, letters and signs to tap, for whoever has no keyboard at hand; every sign is found by a word. */
defineEmits<{ sign: [text: string]; back: []; step: [by: number] }>()
const word = ref('')
const found = computed(() => signsFor(word.value))
const listed = ref(false)
const ROWS: readonly (readonly (readonly [shown: string, typed: string])[])[] = [
  [
    ['7', '7'],
    ['8', '8'],
    ['9', '9'],
    ['+', '+'],
    ['−', '-'],
    ['(', '('],
    [')', ')'],
    ['x', 'x'],
  ],
  [
    ['4', '4'],
    ['5', '5'],
    ['6', '6'],
    ['×', '*'],
    ['÷', '÷'],
    ['√', '√()'],
    ['xⁿ', '^()'],
    ['y', 'y'],
  ],
  [
    ['1', '1'],
    ['2', '2'],
    ['3', '3'],
    ['=', '='],
    ['a/b', '/'],
    ['<', '<'],
    ['>', '>'],
    ['n', 'n'],
  ],
  [
    ['0', '0'],
    ['.', '.'],
    [',', ', '],
    ['π', 'π'],
    ['°', '°'],
    ['≈', '≈'],
  ],
]
</script>

<template>
  <div
    class="grid max-h-80 grid-cols-8 overflow-y-auto border-t border-(--rule-fine) bg-default"
    role="group"
    aria-label="Signs"
    data-part="signs"
    @mousedown.prevent
  >
    <button
      v-for="[shown, typed] in ROWS.flat()"
      :key="shown"
      type="button"
      class="sign serif"
      @click="$emit('sign', typed)"
    >
      {{ shown }}
    </button>
    <button
      type="button"
      class="sign"
      aria-label="Rub out the sign before"
      @click="$emit('back')"
    >
      <UIcon
        name="i-lucide-delete"
        class="size-5"
      />
    </button>
    <button
      type="button"
      class="sign"
      aria-label="One sign on"
      @click="$emit('step', 1)"
    >
      <UIcon
        name="i-lucide-arrow-right"
        class="size-5"
      />
    </button>
    <label class="col-span-8 flex min-h-11 items-center gap-2 px-2 text-sm">
      <UIcon
        name="i-lucide-search"
        class="size-4 text-toned"
      />
      <input
        v-model="word"
        class="h-9 min-w-0 grow bg-transparent outline-none"
        placeholder="Another sign by a word: root, degree, mean"
        aria-label="Find a sign by a word"
        autocomplete="off"
        @mousedown.stop
        @focus="listed = true"
        @keydown.stop
        @keydown.enter.prevent="found[0] && $emit('sign', found[0].typed)"
      />
      <button
        type="button"
        class="px-2 underline"
        @click="listed = !listed"
      >
        {{ listed ? 'Fewer' : 'All' }}
      </button>
    </label>
    <template v-if="listed">
      <button
        v-for="sign in word.trim() ? found : LINE_SIGNS"
        :key="sign.shown"
        type="button"
        class="sign serif"
        :title="sign.words"
        :aria-label="sign.words"
        @click="$emit('sign', sign.typed)"
      >
        {{ sign.shown }}
      </button>
      <p
        v-if="word.trim() && !found.length"
        class="col-span-8 px-3 py-2 text-sm"
        role="status"
      >
        No sign is found by “{{ word }}”.
      </p>
    </template>
  </div>
</template>

<style scoped>
.sign {
  display: grid;
  place-items: center;
  min-height: 2.75rem;
  min-width: 2.75rem;
  font-size: 1.125rem;
  border-right: 1px solid var(--rule-fine);
  border-bottom: 1px solid var(--rule-fine);
}
.sign:hover {
  background: var(--ui-bg-elevated);
}
</style>
