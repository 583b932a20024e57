<script setup lang="ts">
import { stepName } from '#core/cut'
import { questionName, type Question, type Release } from '#core/folio'
import { dateAndTime, shownAt } from '#core/publish'

/** For each question: which steps its hint cut has, and from when students get the hint and the whole solution. */
const open = defineModel<boolean>('open', { required: true })
const publish = usePublish()
const store = useFolio()
const chosen = ref<string | null>(null)
const now = useNow({ interval: 30_000 })

/** A moment as the field for it writes it: in this machine's own time. */
function local(iso: string | undefined): string {
  if (!iso) return ''
  const at = new Date(iso)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}
/** A release without anything in it is none. */
function put(draft: Question, release: Release) {
  if (Object.keys(release).length) draft.release = release
  else delete draft.release
}
function change(q: Question, edit: (release: Release) => void) {
  store.changeQuestion(q.id, 'change cuts and dates', draft => {
    const release: Release = { ...draft.release }
    edit(release)
    if (!release.hint?.length) {
      delete release.hint
      delete release.hintFrom
    }
    put(draft, release)
  })
}
function setFrom(q: Question, which: 'hintFrom' | 'fullFrom', value: string) {
  const at = new Date(value)
  change(q, release => {
    if (!value) delete release[which]
    else if (!Number.isNaN(at.getTime())) release[which] = at.toISOString()
  })
}
function setStep(q: Question, step: string, on: boolean) {
  change(q, release => {
    const has = new Set(release.hint ?? [])
    if (on) has.add(step)
    else has.delete(step)
    release.hint = q.ledger!.steps.map(s => s.id).filter(id => has.has(id))
  })
}
const steps = (q: Question) => q.ledger!.steps.map((s, i) => ({ id: s.id, name: stepName(s, i), struck: s.struck }))
function said(q: Question): string {
  const { cut, next } = shownAt(q, now.value.getTime())
  if (cut === 'full')
    return q.release?.hint?.length && !q.release.fullFrom
      ? 'All of it at once: the hint needs a later date for the rest'
      : 'All of it now'
  return cut === 'hint' ? `The hint now, all of it ${dateAndTime(next!)}` : `Nothing before ${dateAndTime(next!)}`
}
/** One date for the whole sheet is what is wanted most. */
const everyFrom = ref('')
function setAll() {
  store.change('change all dates', draft => {
    for (const q of draft.questions) {
      if (!publish.recorded.some(r => r.id === q.id)) continue
      const at = new Date(everyFrom.value)
      const release: Release = { ...q.release }
      if (everyFrom.value && !Number.isNaN(at.getTime())) release.fullFrom = at.toISOString()
      else delete release.fullFrom
      put(q, release)
    }
  })
}
</script>

<template>
  <UModal
    v-model:open="open"
    title="Cuts and dates"
    description="A hint cut is the beginning of the way and ends with “your turn”. The class site keeps to the dates by its own clock."
    :ui="{ content: 'max-w-4xl' }"
  >
    <template #body>
      <div class="mb-3 flex flex-wrap items-end gap-3 border-b border-(--rule-fine) pb-3">
        <UFormField label="All solutions from">
          <UInput
            v-model="everyFrom"
            type="datetime-local"
            :disabled="store.readOnly"
          />
        </UFormField>
        <UButton
          color="neutral"
          variant="outline"
          :disabled="store.readOnly"
          @click="setAll"
        >
          {{ everyFrom ? 'Set for every question' : 'Take all dates away' }}
        </UButton>
        <p class="ml-auto self-center text-sm text-toned">Dates hold once you publish.</p>
      </div>
      <ul>
        <li
          v-for="q in publish.recorded"
          :key="q.id"
          class="border-b border-(--rule-fine) py-2.5 last:border-b-0"
          data-part="release"
        >
          <div class="grid grid-cols-[minmax(0,1fr)_13rem_13rem] items-end gap-4">
            <div class="min-w-0">
              <p class="truncate text-lg">{{ questionName(q) }}</p>
              <p class="text-sm text-toned">{{ said(q) }}</p>
            </div>
            <UFormField label="Hint from">
              <UInput
                type="datetime-local"
                class="w-full"
                :aria-label="`Hint of question ${q.number} from`"
                :model-value="local(q.release?.hintFrom)"
                :disabled="!q.release?.hint?.length || store.readOnly"
                @change="setFrom(q, 'hintFrom', ($event.target as HTMLInputElement).value)"
              />
            </UFormField>
            <UFormField label="All of it from">
              <UInput
                type="datetime-local"
                class="w-full"
                :aria-label="`All of question ${q.number} from`"
                :model-value="local(q.release?.fullFrom)"
                :disabled="store.readOnly"
                @change="setFrom(q, 'fullFrom', ($event.target as HTMLInputElement).value)"
              />
            </UFormField>
          </div>
          <UButton
            color="neutral"
            variant="ghost"
            size="sm"
            class="mt-1"
            :icon="chosen === q.id ? 'i-lucide-chevron-down' : 'i-lucide-chevron-right'"
            :aria-expanded="chosen === q.id"
            @click="chosen = chosen === q.id ? null : q.id"
          >
            {{ q.release?.hint?.length ? `Hint: ${q.release.hint.length} of ${steps(q).length} steps` : 'No hint' }}
          </UButton>
          <ol
            v-if="chosen === q.id"
            class="mt-1 grid grid-cols-2 gap-x-6 gap-y-1 pl-3"
          >
            <li
              v-for="s in steps(q)"
              :key="s.id"
            >
              <UCheckbox
                :model-value="q.release?.hint?.includes(s.id) ?? false"
                :label="s.struck ? `${s.name} (struck)` : s.name"
                :disabled="s.struck || store.readOnly"
                @update:model-value="setStep(q, s.id, $event === true)"
              />
            </li>
          </ol>
        </li>
      </ul>
    </template>
  </UModal>
</template>
