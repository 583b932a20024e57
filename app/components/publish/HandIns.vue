<script setup lang="ts">
import { clockTime, dateAndTime, type ReadHandIn } from '#core/publish'

/** What students handed in: opened from files, each at its question. */
const handIns = useHandIns()
const site = useClassSite()
const input = useTemplateRef('input')
async function choose(event: Event) {
  const field = event.target as HTMLInputElement
  const files = [...(field.files ?? [])]
  field.value = ''
  await handIns.open(files)
}
/** Messages by question and step, so that what many ask stands together. */
const messages = computed(() =>
  [...site.inbox].sort((a, b) => {
    if (!a.read || !b.read) return a.read ? -1 : b.read ? 1 : 0
    const place = (m: ReadHandIn) => (m.kind === 'stuck' ? m.stuck.t : 0)
    const order = (m: ReadHandIn) => store.questions.findIndex(q => q.id === m.question.id)
    return order(a.read) - order(b.read) || place(a.read) - place(b.read)
  }),
)
const store = useFolio()
const isOpen = (read: ReadHandIn | null) => !read || !handIns.answerOf(read)
const waiting = computed(() => messages.value.filter(m => isOpen(m.read)))
const files = computed(() => handIns.all.filter(isOpen))
/** Messages and files that were answered, with when who asked can see that. */
const answered = computed(() =>
  [...messages.value.flatMap(m => m.read ?? []), ...handIns.all].flatMap(read => {
    const reply = handIns.answerOf(read)
    return reply ? [{ read, reply, seen: handIns.seenWhen(read, reply) }] : []
  }),
)
const messageIn = (read: ReadHandIn) => site.inbox.find(m => m.read === read)
const putAway = (read: ReadHandIn) => {
  const message = messageIn(read)
  if (message) void site.putAway(message.id)
  else handIns.remove(read)
}
const about = (h: ReadHandIn) =>
  h.kind === 'stuck'
    ? `is stuck at ${clockTime(h.stuck.t)}${h.stuck.step ? `, “${h.stuck.step}”` : ''}`
    : `explained by ${h.by || 'a student'}, ${clockTime(h.lesson.duration)}`
</script>

<template>
  <section
    class="border border-(--rule) bg-default"
    data-part="hand-ins"
  >
    <header class="flex items-center border-b border-(--rule-fine) px-5 py-2.5">
      <h2 class="mr-auto text-lg font-semibold">From students</h2>
      <UButton
        color="neutral"
        variant="outline"
        icon="i-lucide-inbox"
        @click="input?.click()"
      >
        Open what was handed in
      </UButton>
      <input
        ref="input"
        type="file"
        accept=".json,application/json"
        multiple
        hidden
        @change="choose"
      />
    </header>
    <p
      v-if="!handIns.all.length && !messages.length"
      class="px-5 py-4 text-toned"
    >
      Where a student is stuck she sends it from the page to here. From a page elsewhere she saves it, or her own
      explanation, as a file: open that here to see it on the board.
    </p>
    <ul>
      <li
        v-for="m in waiting"
        :key="m.id"
        class="flex items-center gap-3 border-b border-(--rule-fine) px-5 py-2 last:border-b-0"
        data-part="message"
      >
        <button
          v-if="m.read"
          type="button"
          class="min-w-0 grow truncate text-left underline-offset-4 hover:underline"
          @click="handIns.show(m.read)"
        >
          <b>{{ m.read.question.number }}</b> {{ about(m.read) }}
          <span
            v-if="m.read.kind === 'stuck' && m.read.stuck.says"
            class="text-toned"
            >— {{ m.read.stuck.says }}</span
          >
        </button>
        <span
          v-else
          class="min-w-0 grow truncate text-toned"
          >{{ m.why }}</span
        >
        <span class="shrink-0 text-sm text-toned">{{ dateAndTime(m.at) }}</span>
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-check"
          aria-label="Put it away"
          :disabled="store.readOnly"
          @click="site.putAway(m.id)"
        />
      </li>
      <li
        v-for="h in files"
        :key="h.name"
        class="flex items-center gap-3 border-b border-(--rule-fine) px-5 py-2 last:border-b-0"
      >
        <button
          type="button"
          class="min-w-0 grow truncate text-left underline-offset-4 hover:underline"
          @click="handIns.show(h)"
        >
          <b>{{ h.question.number }}</b> {{ about(h) }}
        </button>
        <span class="truncate text-sm text-toned">{{ h.name }}</span>
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-x"
          :aria-label="`Close ${h.name}`"
          @click="handIns.remove(h)"
        />
      </li>
    </ul>
    <details
      v-if="answered.length"
      class="border-t border-(--rule-fine) px-5 py-2"
      data-part="answered"
    >
      <summary class="cursor-pointer text-toned">Answered: {{ answered.length }}</summary>
      <ul>
        <li
          v-for="a in answered"
          :key="a.reply.id"
          class="flex items-center gap-3 border-b border-(--rule-fine) py-2 last:border-b-0"
        >
          <button
            type="button"
            class="min-w-0 grow truncate text-left underline-offset-4 hover:underline"
            @click="handIns.show(a.read)"
          >
            <b>{{ a.read.question.number }}</b> {{ about(a.read) }}
            <span class="text-toned">— {{ a.reply.says }}</span>
          </button>
          <span class="shrink-0 text-sm text-toned">{{ a.seen }}</span>
          <UButton
            color="neutral"
            variant="ghost"
            icon="i-lucide-x"
            :aria-label="`Put away what was answered: question ${a.read.question.number}`"
            :disabled="store.readOnly"
            @click="putAway(a.read)"
          />
        </li>
      </ul>
    </details>
    <HandInView v-if="handIns.shown" />
  </section>
</template>
