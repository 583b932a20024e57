<script setup lang="ts">
/** Says, across the window, that another tab has the folio, and takes it over by one action. */
const store = useFolio()
</script>

<template>
  <div
    v-if="store.readOnly"
    class="flex min-h-13 items-center gap-4 border-b-2 border-(--frame) bg-(--color-ink-100) px-5 text-(--color-ink-950) dark:bg-(--color-ink-950) dark:text-(--color-ink-50)"
    role="status"
    data-part="read-only"
  >
    <UIcon
      name="i-lucide-book-lock"
      class="size-5 shrink-0"
    />
    <p class="min-w-0 grow"><strong>Open in another tab.</strong> Here the folio can be read, not changed.</p>
    <UButton
      class="h-11 shrink-0"
      title="The other tab can only read then; a take that runs there is not interrupted"
      @click="store.takeOver"
    >
      Take over here
    </UButton>
  </div>
</template>
