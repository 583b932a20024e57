<script setup lang="ts">
/** What was mended, each to be taken back by itself. */
const mending = useMending()
const store = useFolio()
</script>

<template>
  <details
    v-if="mending.mends.length"
    class="mt-4 border border-(--rule) bg-default text-sm"
    data-part="mends"
  >
    <summary class="cursor-pointer px-3 py-2 font-semibold">
      {{ mending.mends.length }} {{ mending.mends.length === 1 ? 'mend' : 'mends' }}
    </summary>
    <ul class="border-t border-(--rule-fine)">
      <li
        v-for="(m, i) in mending.mends"
        :key="m.id"
        class="flex items-center gap-3 px-3 py-1"
      >
        <span class="serif">{{ i + 1 }}</span>
        <span class="grow"
          >{{ m.name }}<template v-if="mending.waiting.has(m.id)">, what it is about is struck out</template></span
        >
        <UButton
          size="xs"
          color="neutral"
          variant="ghost"
          icon="i-lucide-undo-dot"
          :disabled="store.readOnly"
          @click="mending.drop(m.id)"
        >
          Take back
        </UButton>
      </li>
    </ul>
  </details>
</template>
