<script setup lang="ts">
import { questionName } from '#core/folio'

/** The handout as a PDF: for the whole sheet or one question, with all of the working, its beginning, or none. */
const open = defineModel<boolean>('open', { required: true })
const publish = usePublish()
const packages = usePackages()
const settings = useSettings()
const INK = [
  { value: 'all' as const, label: 'All of the working' },
  { value: 'first' as const, label: 'The first step' },
  { value: 'none' as const, label: 'None' },
]
const COLOURS = [
  { value: 'colour' as const, label: 'In colour' },
  { value: 'grey' as const, label: 'Black and white' },
]
const of = ref('whole')
const items = computed(() => [
  { value: 'whole', label: 'The whole sheet' },
  { value: 'each', label: 'Each question, a file of its own' },
  ...publish.recorded.map(q => ({ value: q.id, label: questionName(q) })),
])
async function make() {
  open.value = false
  const each = publish.recorded.map(q => q.id)
  await packages.handout(of.value === 'whole' ? [null] : of.value === 'each' ? each : [of.value])
}
</script>

<template>
  <UModal
    v-model:open="open"
    title="Handout"
    description="Your pages as they are, the ink over them; steps, answers and codes on the last page."
    :ui="{ content: 'max-w-2xl' }"
  >
    <template #body>
      <div class="flex flex-col gap-5">
        <UFormField label="For">
          <USelect
            v-model="of"
            :items="items"
            class="w-full"
          />
        </UFormField>
        <UFormField label="Working on it">
          <ChoiceRow
            v-model="settings.remembered.handoutInk"
            :items="INK"
            label="Working on it"
          />
        </UFormField>
        <UFormField label="Printed">
          <ChoiceRow
            v-model="settings.remembered.handoutColour"
            :items="COLOURS"
            label="Printed"
          />
        </UFormField>
        <p
          v-if="!packages.link"
          class="text-toned"
        >
          Codes that lead to the questions are on it once the page is published.
        </p>
      </div>
    </template>
    <template #footer>
      <UButton
        icon="i-lucide-file-down"
        @click="make"
      >
        Make the PDF
      </UButton>
    </template>
  </UModal>
</template>
