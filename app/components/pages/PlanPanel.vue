<script setup lang="ts">
import { newId, patchList, questionName, type Plan } from '#core/folio'

/** The plan of the folio, as on a lesson's title block. */
const store = useFolio()
const classPages = useClassPages()
const plan = computed(() => store.folio!.plan)
const text = (event: Event) => (event.target as HTMLInputElement).value.trim()
const change = (label: string, edit: (plan: Plan) => void) => store.change(label, f => edit(f.plan))
function skip(questionId: string, skipped: boolean) {
  change(skipped ? 'leave the question out' : 'assign the question', p => {
    p.skipped = p.skipped.filter(s => s.questionId !== questionId)
    if (skipped) p.skipped.push({ questionId, why: '' })
  })
}
function setRelated(id: string, key: 'title' | 'address', event: Event) {
  change('change the related lesson', p => {
    p.related.find(x => x.id === id)![key] = text(event)
  })
}
const removeRelated = (id: string) =>
  change('remove the related lesson', p => {
    p.related = p.related.filter(x => x.id !== id)
  })
const addRelated = (title = '', address = '') =>
  change('add a related lesson', p => p.related.push({ id: newId(), title, address }))
/** Her other lessons that students have, those of the same course first. */
const lessons = shallowRef<{ label: string; onSelect: () => void }[]>([])
onMounted(async () => {
  lessons.value = (await classPages.lessonsBeside(store.folio!)).map(({ title, link }) => ({
    label: title,
    onSelect: () => void addRelated(title, link),
  }))
})
const patches = computed(() => patchList(store.folio!))
const copyPatches = () =>
  navigator.clipboard.writeText(
    patches.value.map(p => `Page ${p.page}: “${p.before}” should read “${p.text}”`).join('\n'),
  )
/** The opening notice is recorded like a question, but it is none. */
const asked = computed(() =>
  store.questions.filter(q => !q.regions.some(r => store.folio!.pages.find(p => p.id === r.pageId)?.kind === 'notice')),
)
/** Where a practice question is tried: at the end, or beside a question. */
const AT_END = 'end'
const places = computed(() => [
  { label: 'At the end', value: AT_END },
  ...asked.value.map(q => ({ label: `After question ${questionName(q)}`, value: q.id })),
])
const placeOf = (questionId: string | undefined) => (asked.value.some(q => q.id === questionId) ? questionId! : AT_END)
function setPlace(id: string, place: string) {
  change('move the practice question', p => {
    const next = p.next.find(x => x.id === id)!
    if (place === AT_END) delete next.questionId
    else next.questionId = place
  })
}
const why = (id: string) => plan.value.skipped.find(s => s.questionId === id)?.why
</script>

<template>
  <div class="min-h-0 grow overflow-y-auto p-4 text-sm">
    <div class="flex flex-col gap-2.5">
      <UFormField label="Lesson">
        <UInput
          :model-value="plan.lesson"
          :maxlength="300"
          class="w-full"
          :disabled="store.readOnly"
          @change="
            change('name the lesson', p => {
              p.lesson = text($event)
            })
          "
        />
      </UFormField>
      <UFormField label="Due">
        <UInput
          :model-value="plan.due"
          type="date"
          class="w-full"
          :disabled="store.readOnly"
          @change="
            change('set the due date', p => {
              p.due = text($event)
            })
          "
        />
      </UFormField>
      <UFormField label="What to bring">
        <UInput
          :model-value="plan.bring"
          :maxlength="500"
          class="w-full"
          :disabled="store.readOnly"
          @change="
            change('say what to bring', p => {
              p.bring = text($event)
            })
          "
        />
      </UFormField>
    </div>
    <h3 class="mb-1 mt-4 text-base font-semibold">Assigned questions</h3>
    <p
      v-if="!store.questions.length"
      class="text-toned"
    >
      They can be chosen once there are questions.
    </p>
    <div
      v-for="q in asked"
      :key="q.id"
      class="py-0.5"
    >
      <UCheckbox
        :model-value="why(q.id) === undefined"
        :label="questionName(q)"
        :disabled="store.readOnly"
        @update:model-value="value => skip(q.id, value !== true)"
      />
      <UInput
        v-if="why(q.id) !== undefined"
        :model-value="why(q.id)"
        :maxlength="300"
        size="sm"
        class="ml-6 mt-1 w-[calc(100%-1.5rem)]"
        placeholder="Why it is left out"
        :aria-label="`Why question ${q.number} is left out`"
        :disabled="store.readOnly"
        @change="
          change('say why', p => {
            p.skipped.find(s => s.questionId === q.id)!.why = text($event)
          })
        "
      />
    </div>
    <h3 class="mb-1 mt-4 text-base font-semibold">What to do next</h3>
    <div
      v-for="n in plan.next"
      :key="n.id"
      class="mb-2 border-l-2 border-(--rule-fine) pl-2"
    >
      <UTextarea
        :model-value="n.text"
        :maxlength="1000"
        :rows="2"
        class="w-full"
        placeholder="A practice question"
        aria-label="Practice question"
        :disabled="store.readOnly"
        @change="
          change('change the practice question', p => {
            p.next.find(x => x.id === n.id)!.text = text($event)
          })
        "
      />
      <div class="mt-1 flex gap-1">
        <UInput
          :model-value="n.answer"
          :maxlength="500"
          size="sm"
          class="grow"
          placeholder="Its answer"
          aria-label="Answer of the practice question"
          :disabled="store.readOnly"
          @change="
            change('change its answer', p => {
              p.next.find(x => x.id === n.id)!.answer = text($event)
            })
          "
        />
        <UButton
          size="sm"
          color="neutral"
          variant="ghost"
          icon="i-lucide-x"
          aria-label="Remove the practice question"
          :disabled="store.readOnly"
          @click="
            change('remove the practice question', p => {
              p.next = p.next.filter(x => x.id !== n.id)
            })
          "
        />
      </div>
      <UInput
        :model-value="n.hint"
        :maxlength="1000"
        size="sm"
        class="mt-1 w-full"
        placeholder="A hint, before the answer"
        aria-label="Hint of the practice question"
        :disabled="store.readOnly"
        @change="
          change('change its hint', p => {
            p.next.find(x => x.id === n.id)!.hint = text($event)
          })
        "
      />
      <USelect
        :model-value="placeOf(n.questionId)"
        :items="places"
        size="sm"
        class="mt-1 w-full"
        aria-label="Where the practice question is tried"
        :disabled="store.readOnly"
        @update:model-value="setPlace(n.id, $event)"
      />
    </div>
    <UButton
      size="sm"
      color="neutral"
      variant="outline"
      icon="i-lucide-plus"
      :disabled="store.readOnly"
      @click="
        change('add a practice question', p => {
          p.next.push({ id: newId(), text: '', answer: '', hint: '' })
        })
      "
    >
      A practice question
    </UButton>
    <h3 class="mb-1 mt-4 text-base font-semibold">Related lessons</h3>
    <div
      v-for="lesson in plan.related"
      :key="lesson.id"
      class="mb-2 flex gap-1"
    >
      <div class="grow">
        <UInput
          :model-value="lesson.title"
          :maxlength="300"
          size="sm"
          class="w-full"
          placeholder="Lesson"
          aria-label="Related lesson"
          :disabled="store.readOnly"
          @change="setRelated(lesson.id, 'title', $event)"
        />
        <UInput
          :model-value="lesson.address"
          :maxlength="2000"
          size="sm"
          class="mt-1 w-full"
          placeholder="Address"
          aria-label="Its address"
          :disabled="store.readOnly"
          @change="setRelated(lesson.id, 'address', $event)"
        />
      </div>
      <UButton
        size="sm"
        color="neutral"
        variant="ghost"
        icon="i-lucide-x"
        aria-label="Remove the related lesson"
        :disabled="store.readOnly"
        @click="removeRelated(lesson.id)"
      />
    </div>
    <UButton
      size="sm"
      color="neutral"
      variant="outline"
      icon="i-lucide-plus"
      :disabled="store.readOnly"
      @click="addRelated()"
    >
      A related lesson
    </UButton>
    <UDropdownMenu
      v-if="lessons.length"
      :items="lessons"
    >
      <UButton
        class="ml-2"
        size="sm"
        color="neutral"
        variant="outline"
        icon="i-lucide-library"
        :disabled="store.readOnly"
        data-part="own-lessons"
      >
        One of yours
      </UButton>
    </UDropdownMenu>
    <template v-if="patches.length">
      <h3 class="mb-1 mt-4 text-base font-semibold">For the author of the sheet</h3>
      <ul data-part="patches">
        <li
          v-for="p in patches"
          :key="p.id"
          class="border-b border-(--rule-fine) py-1.5"
        >
          Page {{ p.page }}: <s>{{ p.before || 'nothing readable' }}</s
          ><br /><b>{{ p.text }}</b>
        </li>
      </ul>
      <UButton
        class="mt-2"
        size="sm"
        color="neutral"
        variant="outline"
        icon="i-lucide-copy"
        @click="copyPatches"
      >
        Copy the list
      </UButton>
    </template>
  </div>
</template>
