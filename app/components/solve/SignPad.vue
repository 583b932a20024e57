<script setup lang="ts">
/** Digits, letters and signs to tap, for whoever has no keyboard at hand. */
defineEmits<{ sign: [text: string]; back: []; step: [by: number] }>()
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
    ['√', 'sqrt()'],
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
    ['π', 'pi'],
    ['°', '°'],
    ['≈', '~~'],
  ],
]
</script>

<template>
  <div
    class="grid grid-cols-8 border-t border-(--rule-fine) bg-default"
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
