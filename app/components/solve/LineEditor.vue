<script setup lang="ts">
import { NOTATIONS, Trouble, type Typeset } from '#core/folio'
import { keyOfRole, PEN_ROLES, roleOfKey, type PenRole } from '#core/ink'
import { letterColour } from '#core/ink'
import type { LineDraft } from '~/stores/bench'

/** A line that is being typed on the page: what is typed, and below it how it will stand there. */
const props = defineProps<{
  draft: LineDraft
  left: number
  top: number
  scale: number
  room: { width: number; height: number }
}>()
const bench = useBench()
const settings = useSettings()
const source = ref(props.draft.source)
const notation = ref(props.draft.notation)
const set = shallowRef<Typeset | null>(null)
const trouble = ref('')
const field = ref<HTMLInputElement>()
const { insert, back, step } = useSigns(() => field.value, source)
const notations = NOTATIONS.map(n => ({ value: n, label: { maths: 'Maths', latex: 'LaTeX', words: 'Words' }[n] }))
let done = false

watch(
  [source, notation],
  async ([text, kind]) => {
    if (!text.trim()) {
      set.value = null
      trouble.value = ''
      return
    }
    try {
      const made = await bench.typesetLine(text, kind)
      if (text !== source.value || kind !== notation.value) return
      set.value = made
      trouble.value = ''
    } catch (error) {
      if (text === source.value) trouble.value = error instanceof Trouble ? error.message : String(error)
    }
  },
  { immediate: true },
)
onMounted(() => {
  field.value?.focus()
  field.value?.select()
})

async function finish(on: boolean) {
  if (done) return
  done = true
  done = await bench.finishLine(source.value, notation.value, on)
}
function leave() {
  done = true
  bench.draft = null
}

/** Enter takes the line and opens the next; Ctrl and a pen's number colours what is selected. */
function key(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    void finish(!event.shiftKey)
  } else if (event.key === 'Escape') leave()
  else if (event.key === 'ArrowUp' && !source.value && props.draft.under) source.value = props.draft.under.source
  else if ((event.ctrlKey || event.metaKey || event.altKey) && roleOfKey(event.key)) {
    event.preventDefault()
    colour(roleOfKey(event.key)!)
  }
}
function colour(role: PenRole) {
  const input = field.value
  if (!input || input.selectionStart === input.selectionEnd) return
  const [a, b] = [input.selectionStart!, input.selectionEnd!]
  source.value = `${source.value.slice(0, a)}@${keyOfRole(role)}(${source.value.slice(a, b)})${source.value.slice(b)}`
}
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
        :placeholder="notation === 'maths' ? '3x-4=17' : notation === 'latex' ? '\\frac{3}{4}' : 'so `x=7` metres'"
        aria-label="The line"
        autocomplete="off"
        spellcheck="false"
        maxlength="2000"
        @keydown="key"
      />
      <USelect
        v-model="notation"
        :items="notations"
        class="w-24"
        aria-label="Typed as"
      />
      <UButton
        class="h-11"
        title="Take the line (Enter opens the next one, Shift Enter does not)"
        @click="finish(false)"
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
        @click="finish(true)"
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
        :title="`What is selected as ${role} (Ctrl ${keyOfRole(role)})`"
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
  </form>
</template>
