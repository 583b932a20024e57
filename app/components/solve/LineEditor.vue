<script setup lang="ts">
import { Trouble, type Typeset } from '#core/folio'
import { keyOfRole, PEN_ROLES, roleOfKey, type PenRole } from '#core/ink'
import { letterColour } from '#core/ink'
import { breakBefore, lastTerm } from '#core/maths'
import type { LineDraft } from '~/stores/lines'

/** A line that is being typed on the page: what is typed, and below it how it will stand there. */
const props = defineProps<{
  draft: LineDraft
  left: number
  top: number
  scale: number
  room: { width: number; height: number }
}>()
const bench = useBench()
const lines = useLines()
const settings = useSettings()
const keys = useKeys()
const source = ref(props.draft.source)
// A line of before stays in the notation that it was typed in.
const { notation } = props.draft
const set = shallowRef<Typeset | null>(null)
const trouble = ref('')
const field = ref<HTMLInputElement>()
const { insert, back, step } = useSigns(() => field.value, source)
const hindrance = shallowRef<ReturnType<typeof lines.hindrance>>(null)
const WHAT = {
  frame: 'It runs out of the frame.',
  print: 'It would lie over print.',
  writing: 'It would lie over what stands there.',
}
let done = false

watch(
  source,
  async text => {
    const to = props.draft
    if (!text.trim()) {
      set.value = null
      trouble.value = ''
      hindrance.value = null
      return
    }
    try {
      const made = await lines.setLine(text, notation, to)
      if (text !== source.value) return
      set.value = made.set
      trouble.value = ''
      hindrance.value = lines.hindrance(made.at, made.set, to)
    } catch (error) {
      if (text === source.value) trouble.value = error instanceof Trouble ? error.message : String(error)
    }
  },
  { immediate: true },
)
onMounted(() => {
  field.value?.focus()
  // A line that is begun as a copy of the one above goes on at its end; another one is typed anew.
  if (props.draft.under && props.draft.source) field.value?.setSelectionRange(source.value.length, source.value.length)
  else field.value?.select()
  keys.typed = field.value ?? null
})
onBeforeUnmount(() => {
  keys.typed = null
})
// What is typed is taken by a tap elsewhere, or another tool; nothing is lost.
watch(
  source,
  text => {
    lines.typing = text
  },
  { immediate: true },
)

async function finish(then: 'nothing' | 'next' | 'again') {
  if (done) return
  done = true
  done = await lines.finishLine(source.value, notation, then)
}
/** One Escape leaves the line, and puts the tool down. */
function leave() {
  done = true
  lines.typing = ''
  lines.draft = null
  bench.choose(settings.remembered.role)
}

/** Enter takes the line and opens the next; with Ctrl the step is done, and the next begins as a copy. */
function key(event: KeyboardEvent) {
  if (event.altKey) return
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    void finish(event.ctrlKey || event.metaKey ? 'again' : event.shiftKey ? 'nothing' : 'next')
  } else if (event.key === 'Escape') leave()
  else if (event.key === 'ArrowUp' && !source.value && props.draft.under) source.value = props.draft.under.source
  else if ((event.ctrlKey || event.metaKey) && roleOfKey(event.key)) {
    event.preventDefault()
    colour(roleOfKey(event.key)!)
  }
}
/** Colours what is selected; with nothing selected, the term before the cursor. */
function colour(role: PenRole) {
  const input = field.value
  if (!input) return
  const [a, b] =
    input.selectionStart === input.selectionEnd
      ? lastTerm(source.value, input.selectionStart ?? source.value.length)
      : [input.selectionStart!, input.selectionEnd!]
  if (a === b) return
  const open = `@${keyOfRole(role)}(`
  source.value = `${source.value.slice(0, a)}${open}${source.value.slice(a, b)})${source.value.slice(b)}`
  void nextTick(() => input.setSelectionRange(b + open.length + 1, b + open.length + 1))
}

/** Takes what fits as a line of its own; the rest goes on below it. */
async function breakLine() {
  const wide = set.value?.width ?? 0
  const at = breakBefore(source.value, (lines.roomFor(props.draft) / Math.max(1, wide)) * source.value.length)
  if (!at) return
  const rest = source.value.slice(at).trim()
  source.value = source.value.slice(0, at).trim()
  await finish('next')
  if (lines.draft)
    lines.draft = { ...lines.draft, source: rest, at: { ...lines.draft.at, x: lines.draft.at.x + 0.001 } }
}
function move() {
  const to = hindrance.value?.to
  // Lined up no more: it stands where it has room.
  if (to) lines.draft = { ...props.draft, source: source.value, at: to, moved: true }
}
const canBreak = computed(
  () => hindrance.value?.what === 'frame' && breakBefore(source.value, source.value.length * 0.8) > 0,
)
const size = computed(() => (props.draft.under?.size ?? settings.remembered.letters) * props.scale)
const at = computed(() => ({
  left: `${Math.max(4, Math.min(props.left, props.room.width - 490))}px`,
  top: `${Math.max(4, Math.min(props.top - size.value, props.room.height - (settings.remembered.signs ? 400 : 170)))}px`,
}))
const viewBox = computed(
  () =>
    set.value &&
    `${-40} ${-Math.max(800, set.value.height) - 40} ${Math.max(400, set.value.width) + 80} ${Math.max(800, set.value.height) + Math.max(250, set.value.depth) + 80}`,
)
</script>

<template>
  <form
    class="absolute z-10 flex w-[30rem] flex-col border border-(--frame) bg-default shadow-sm"
    :style="at"
    data-part="line-editor"
    @submit.prevent
  >
    <div class="flex items-center gap-1 p-1">
      <input
        ref="field"
        v-model="source"
        class="h-11 grow bg-transparent px-2 text-base outline-none"
        placeholder="so x = 7, 1 5/12 m, √72 = 6√2, 2H2 + O2 -> 2H2O"
        aria-label="The line"
        autocomplete="off"
        spellcheck="false"
        maxlength="2000"
        @keydown="key"
      />
      <UButton
        class="h-11"
        title="Take the line (Enter opens the next one, Shift Enter does not)"
        @click="finish('nothing')"
      >
        Done
      </UButton>
      <UButton
        class="h-11"
        color="neutral"
        variant="outline"
        icon="i-lucide-corner-down-left"
        aria-label="Take the line and type the next below it"
        title="Take the line and type the next below it (Enter)"
        @click="finish('next')"
      />
      <UButton
        class="h-11"
        color="neutral"
        variant="outline"
        icon="i-lucide-copy-plus"
        aria-label="Take the line, mark the step, and go on with a copy"
        title="Take the line, mark the step, and go on with a copy of it (Ctrl Enter)"
        @click="finish('again')"
      />
    </div>
    <!-- Always as high while signs are tapped, so that they do not move away under the finger. -->
    <div
      class="border-t border-default"
      :class="[settings.remembered.signs && 'grid h-25 content-center overflow-y-auto', set && !trouble && 'bg-white']"
    >
      <p
        v-if="trouble"
        class="px-3 py-2 text-sm"
        role="status"
      >
        {{ trouble }}
      </p>
      <svg
        v-else-if="set && viewBox"
        :viewBox="viewBox"
        class="max-h-24 min-h-9 w-full p-1"
        preserveAspectRatio="xMinYMid meet"
        :style="{
          height: `${Math.min(96, Math.max(36, ((Math.max(800, set.height) + Math.max(250, set.depth)) / 1000) * 26))}px`,
        }"
        aria-hidden="true"
        data-part="line-preview"
      >
        <path
          v-for="(mark, i) in set.marks"
          :key="i"
          :d="mark.d"
          :fill="mark.colour ?? letterColour(bench.role)"
        />
      </svg>
    </div>
    <div class="flex flex-wrap items-center gap-x-1.5 gap-y-1 border-t border-default px-2 py-1 text-xs text-toned">
      <label class="flex min-h-11 items-center gap-2"
        ><input
          v-model="settings.remembered.byHand"
          type="checkbox"
          class="size-4"
        />
        As if by hand</label
      >
      <UButton
        color="neutral"
        :variant="settings.remembered.signs ? 'subtle' : 'outline'"
        class="h-11"
        icon="i-lucide-calculator"
        :aria-pressed="settings.remembered.signs"
        title="Digits and signs to tap"
        @mousedown.prevent
        @click="settings.remembered.signs = !settings.remembered.signs"
      >
        Signs
      </UButton>
      <span class="grow" />
      <button
        v-for="role in PEN_ROLES"
        :key="role"
        type="button"
        class="grid h-11 w-9 place-items-center border border-default bg-white"
        :style="{ color: letterColour(role) }"
        :aria-label="`As ${role}`"
        :title="`What is selected, or the term before the cursor, as ${role} (Ctrl ${keyOfRole(role)})`"
        @mousedown.prevent
        @click="colour(role)"
      >
        {{ keyOfRole(role) }}
      </button>
    </div>
    <SignPad
      v-if="settings.remembered.signs"
      @sign="insert"
      @back="back"
      @step="step"
    />
    <p
      v-if="hindrance && !trouble"
      class="flex min-h-11 flex-wrap items-center gap-2 border-t border-default px-3 py-1 text-sm"
      role="status"
      data-part="line-hindrance"
    >
      <span class="grow">{{ WHAT[hindrance.what] }}</span>
      <UButton
        v-if="canBreak"
        color="neutral"
        variant="outline"
        class="h-9"
        @mousedown.prevent
        @click="breakLine"
        >Break it</UButton
      >
      <UButton
        v-if="hindrance.to"
        color="neutral"
        variant="outline"
        class="h-9"
        @mousedown.prevent
        @click="move"
        >Move it to where there is room</UButton
      >
    </p>
  </form>
</template>
