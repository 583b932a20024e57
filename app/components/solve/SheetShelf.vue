<script setup lang="ts">
import type { Page } from '#core/folio'
import { searchSheets, SHEETS, type ReferenceSheet, type Section } from '#core/sheets'

/** Reference sheets beside the work: searched, read, and shown to students in the frame when wanted. */
defineProps<{ inFrame: string | null }>()
const emit = defineEmits<{ close: []; show: [pageId: string | null] }>()
const store = useFolio()
const incoming = useIncoming()
const settings = useSettings()
const query = ref('')
const chosen = computed(() => SHEETS.find(s => s.id === settings.remembered.sheet) ?? SHEETS[0]!)
const found = computed(() =>
  query.value.trim()
    ? searchSheets(query.value)
    : chosen.value.sections.map(section => ({ sheet: chosen.value, section })),
)
const own = computed(() => store.folio?.pages.filter(p => p.sheet && p.kind !== 'reference') ?? [])
const items = SHEETS.map(s => ({ label: s.title, value: s.id }))
const pageOf = (sheet: ReferenceSheet, section: Section): Page | undefined =>
  store.folio?.pages.find(p => p.kind === 'reference' && p.sheetId === sheet.id && p.sectionId === section.id)

/** Shows a table in the frame; it becomes a page of the folio, so that it is there in the video for good. */
function show(sheet: ReferenceSheet, section: Section, shown: boolean) {
  if (shown) return emit('show', null)
  emit('show', pageOf(sheet, section)?.id ?? incoming.addReference(sheet.id, section.id))
}
</script>

<template>
  <aside
    class="flex min-h-0 flex-col border-l border-(--rule) bg-default"
    aria-label="Reference sheets"
    data-part="sheets"
    @keydown.escape.stop="emit('close')"
  >
    <header class="flex flex-col gap-2 border-b border-default p-3">
      <div class="flex items-center gap-2">
        <UInput
          v-model="query"
          icon="i-lucide-search"
          class="grow"
          placeholder="Look up"
          aria-label="Look up in the reference sheets"
          autofocus
        />
        <UButton
          icon="i-lucide-x"
          color="neutral"
          variant="ghost"
          aria-label="Close the reference sheets"
          title="Close (L or Escape)"
          @click="emit('close')"
        />
      </div>
      <USelect
        v-if="!query.trim()"
        v-model="settings.remembered.sheet"
        :items="items"
        class="w-full"
        aria-label="Sheet"
      />
    </header>
    <div class="min-h-0 grow overflow-y-auto px-3 pb-4">
      <section
        v-for="{ sheet, section } in found"
        :key="`${sheet.id}/${section.id}`"
        class="border-b border-(--rule-fine) py-3"
      >
        <div class="flex items-center justify-between">
          <h3 class="text-base font-semibold">
            {{ section.title }}
          </h3>
          <UButton
            size="sm"
            :color="inFrame && inFrame === pageOf(sheet, section)?.id ? 'primary' : 'neutral'"
            :variant="inFrame && inFrame === pageOf(sheet, section)?.id ? 'solid' : 'outline'"
            :aria-pressed="Boolean(inFrame && inFrame === pageOf(sheet, section)?.id)"
            :title="`Show “${section.title}” in the frame, for students`"
            @click="show(sheet, section, Boolean(inFrame && inFrame === pageOf(sheet, section)?.id))"
          >
            In frame
          </UButton>
        </div>
        <PeriodicTable
          v-if="sheet.id === 'elements' && !query.trim()"
          class="mt-2"
        />
        <table
          v-else
          class="serif mt-1 w-full text-[0.95rem]"
        >
          <tbody>
            <tr
              v-for="(row, i) in section.rows"
              :key="i"
            >
              <td
                v-for="(cell, k) in row"
                :key="k"
                class="py-0.5 pr-2 align-top"
                :class="{
                  'text-toned': k === 1 && row.length === 3,
                  'whitespace-nowrap': k === 0 && row.length === 3 && sheet.id !== 'constants',
                }"
              >
                {{ cell }}
              </td>
            </tr>
          </tbody>
        </table>
        <p class="mt-1 text-xs text-toned">
          {{ section.source }}
        </p>
      </section>
      <p
        v-if="!found.length"
        class="py-6 text-center text-toned"
      >
        Nothing of that name stands on the sheets.
      </p>
      <section
        v-if="own.length && !query.trim()"
        class="py-3"
      >
        <h3 class="mb-2 text-base font-semibold">Sheets of your own</h3>
        <button
          v-for="page in own"
          :key="page.id"
          type="button"
          class="mb-3 block w-full text-left"
          :aria-pressed="inFrame === page.id"
          @click="emit('show', inFrame === page.id ? null : page.id)"
        >
          <PageThumb :page="page" />
          <span class="text-sm">{{ page.sheet }}{{ inFrame === page.id ? ', in the frame' : '' }}</span>
        </button>
      </section>
    </div>
  </aside>
</template>
