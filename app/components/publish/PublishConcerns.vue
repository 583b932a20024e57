<script setup lang="ts">
/** What is worth a look before students get it: named by question, before anything is sent. */
const site = useClassSite()
const store = useFolio()
const open = computed({
  get: () => site.concerns.length > 0,
  set: () => site.settleConcerns(false),
})
/** Goes to the moment in Proof; nothing is sent. */
function look(questionId: string, at: number) {
  site.settleConcerns(false)
  void navigateTo({ path: `/folio/${store.folio!.id}/proof`, query: { q: questionId, t: Math.round(at) } })
}
</script>

<template>
  <UModal
    v-model:open="open"
    title="Look before it goes out"
    description="Nothing has been sent yet."
    :ui="{ content: 'max-w-2xl' }"
  >
    <template #body>
      <ul data-part="concerns">
        <li
          v-for="c in site.concerns"
          :key="`${c.questionId} ${c.kind}`"
          class="flex items-center gap-3 border-b border-(--rule-fine) py-2 last:border-b-0"
        >
          <UIcon
            name="i-lucide-triangle-alert"
            class="size-5 shrink-0 text-(--taking)"
          />
          <span class="min-w-0 grow">{{ c.text }}</span>
          <UButton
            color="neutral"
            variant="outline"
            :aria-label="`Look: ${c.text}`"
            @click="look(c.questionId, c.at)"
          >
            Look
          </UButton>
        </li>
      </ul>
    </template>
    <template #footer>
      <UButton
        class="ml-auto"
        color="neutral"
        variant="outline"
        @click="site.settleConcerns(false)"
      >
        Not yet
      </UButton>
      <UButton @click="site.settleConcerns(true)">Send all the same</UButton>
    </template>
  </UModal>
</template>
