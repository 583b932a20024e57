<script setup lang="ts">
import { FIGURE_HINTS, FIGURE_KINDS, type FigureKind } from '#core/figures'
import { GUIDE_HINTS, GUIDE_KINDS, type GuideKind } from '#core/guides'
import { PEN_ROLES } from '#core/ink'
import { isPen, PEN_SIZES, REASONS } from '../../board/tools'

/** What the tool in hand can be set to, and what it can do next; one row above the tools. */
const bench = useBench()
const lines = useLines()
const tally = useTally()
const options = useOptions()
const guides = useGuides()
const settings = useSettings()
const recording = useRecording()
const r = settings.remembered

const ERASERS = [
  { value: 'strokes', label: 'Whole strokes' },
  { value: 'pieces', label: 'Pieces' },
] as const
const MARKS = [
  { value: 'band', label: 'Marker', icon: 'i-lucide-highlighter' },
  { value: 'underline', label: 'Underline', icon: 'i-lucide-underline' },
  { value: 'strike', label: 'Strike', icon: 'i-lucide-strikethrough' },
  { value: 'ring', label: 'Ring', icon: 'i-lucide-circle' },
  { value: 'box', label: 'Box', icon: 'i-lucide-square' },
] as const
const TAPS = [
  { value: 'out', label: 'Rule out' },
  { value: 'answer', label: 'Answer' },
  { value: 'stays', label: 'Keep' },
] as const
const guideItems = GUIDE_KINDS.map(k => ({ label: k.label, value: k.id as string }))
const figureItems = FIGURE_KINDS.map(k => ({ label: k.label, value: k.id as string }))
const guideExample = computed(() => GUIDE_KINDS.find(k => k.id === guides.kind)?.example ?? '')
const ENDINGS = [
  { label: 'as it comes', value: 'as it comes' },
  { label: 'with remainder', value: ' with remainder' },
  { label: 'as a decimal', value: ' as a decimal' },
  { label: 'to 1 place', value: ' to 1 place' },
  { label: 'to 2 places', value: ' to 2 places' },
  { label: 'to 3 places', value: ' to 3 places' },
]
const PATTERN = /\s*(?:with remainder|as a decimal|to \d+ places?)\s*$/i
/** How a division ends is part of what is typed. */
const ending = computed({
  get: () => PATTERN.exec(guides.text)?.[0].replace(/^\s*/, ' ').trimEnd() ?? ENDINGS[0]!.value,
  set: (v: string) => {
    guides.text = guides.text.replace(PATTERN, '') + (v === ENDINGS[0]!.value ? '' : v)
  },
})
const figureExample = computed(() => FIGURE_KINDS.find(k => k.id === r.figure)?.example ?? '')
const figureText = computed({
  get: () => guides.texts[`figure:${r.figure}`] ?? figureExample.value,
  set: (v: string) => {
    guides.texts[`figure:${r.figure}`] = v
  },
})
/** Puts it where there is room; the keys are the board's again when that was possible. */
async function place(what: 'guide' | 'figure') {
  await (what === 'guide' ? guides.placeGuide : guides.placeFigure)(bench.cursor ? { ...bench.cursor } : null)
  if (!bench.trouble) (document.activeElement as HTMLElement | null)?.blur()
}
const steadiness = [
  { label: 'Hand as it is', value: 0 },
  { label: 'Steadied a little', value: 0.4 },
  { label: 'Steadied', value: 0.8 },
  { label: 'Steadied much', value: 1.4 },
]
const STATES = { open: 'open', out: 'ruled out', stays: 'stays', answer: 'answer' } as const
const resting = computed(() => !bench.live)
const placing = computed(() => (guides.editing || guides.editingHeld ? 'Change' : resting.value ? 'Hold' : 'Place'))
const otherMoves = computed(() =>
  guides.choices.map(({ say, move }) => ({ label: say, onSelect: () => guides.chooseMove(move) })),
)
</script>

<template>
  <div
    class="flex min-h-11 items-center gap-2 text-sm"
    data-part="tool-options"
  >
    <template v-if="isPen(bench.tool)">
      <ChoiceRow
        v-model="r.penSize"
        :items="PEN_SIZES"
        label="Width of the pen"
      />
      <USelect
        v-model="r.steady"
        :items="steadiness"
        class="h-11 w-44"
        aria-label="Steadying of finger and mouse"
        title="For finger and mouse"
      />
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 shrink-0 bg-default"
        icon="i-lucide-copy-plus"
        title="The last written line again below, ready to be changed"
        @click="bench.copyLastInk()"
      >
        Line again <kbd class="key whitespace-nowrap">Shift D</kbd>
      </UButton>
      <span
        v-if="bench.straight"
        class="border border-default bg-default px-2 py-1"
        >Straight: draw a line, arrow, circle or polygon</span
      >
    </template>
    <ChoiceRow
      v-else-if="bench.tool === 'eraser'"
      v-model="r.eraser"
      :items="ERASERS"
      label="What the eraser takes"
    />
    <ChoiceRow
      v-else-if="bench.tool === 'mark'"
      v-model="r.textMark"
      :items="MARKS"
      label="Kind of mark"
    />
    <template v-else-if="bench.tool === 'choose'">
      <span
        v-if="!bench.selection.length"
        class="hint"
        >Ring or tap what you want to change</span
      >
      <template v-else>
        <UButton
          color="neutral"
          variant="outline"
          class="h-11 bg-default"
          icon="i-lucide-copy"
          @click="bench.copyChosen()"
        >
          Copy <kbd class="key whitespace-nowrap">Ctrl C</kbd>
        </UButton>
        <UButton
          color="neutral"
          variant="outline"
          class="h-11 bg-default"
          icon="i-lucide-plus"
          aria-label="Larger"
          @click="bench.grow(1.15)"
        />
        <UButton
          color="neutral"
          variant="outline"
          class="h-11 bg-default"
          icon="i-lucide-minus"
          aria-label="Smaller"
          @click="bench.grow(1 / 1.15)"
        />
        <UButton
          color="neutral"
          variant="outline"
          class="h-11 bg-default"
          icon="i-lucide-trash-2"
          @click="bench.removeChosen()"
        >
          Remove <kbd class="key">Del</kbd>
        </UButton>
        <span class="hint">Drag to move, arrows to nudge, 1 to {{ PEN_ROLES.length }} for another pen</span>
      </template>
    </template>
    <template v-else-if="bench.tool === 'line'">
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 shrink-0 bg-default"
        icon="i-lucide-copy-plus"
        title="The last typed line again below, to be changed"
        @click="lines.copyLastLine()"
      >
        Line again <kbd class="key">D</kbd>
      </UButton>
      <span class="hint">Tap where the line begins{{ resting ? '; it is held for the take' : '' }}</span>
    </template>
    <template v-else-if="bench.tool === 'guide'">
      <USelect
        :model-value="guides.kind"
        :items="guideItems"
        class="h-11 w-48 shrink-0 bg-default"
        aria-label="Kind of guide"
        title="Read from what is typed; another one can be chosen"
        @update:model-value="guides.kind = $event as GuideKind"
      />
      <SignField
        v-model="guides.text"
        class="w-64 shrink-0"
        :placeholder="`such as ${guideExample}`"
        label="Its numbers"
        data-part="guide-text"
        @done="place('guide')"
      />
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 bg-default"
        :title="resting ? 'Held for the take, or tap on the page' : 'Or tap on the page'"
        @click="place('guide')"
      >
        {{ placing }}
      </UButton>
      <USelect
        v-if="guides.kind === 'divide' && guides.text"
        v-model="ending"
        :items="ENDINGS"
        class="h-11 w-36 shrink-0 bg-default"
        aria-label="How the division ends"
      />
      <ToolHint
        v-if="GUIDE_HINTS[guides.kind] && !guides.next"
        :text="GUIDE_HINTS[guides.kind]!"
      />
      <UDropdownMenu
        v-if="guides.choices.length > 1"
        :items="otherMoves"
        :content="{ onCloseAutoFocus: (e: Event) => e.preventDefault() }"
      >
        <UButton
          color="neutral"
          variant="outline"
          class="h-11 shrink-0 bg-default whitespace-nowrap"
          icon="i-lucide-split"
          title="Another next move than the one that would come"
        >
          Other move
        </UButton>
      </UDropdownMenu>
      <UButton
        class="h-11 shrink-0 whitespace-nowrap"
        icon="i-lucide-arrow-right-to-line"
        :disabled="!guides.next"
        data-part="next-move"
        @click="guides.fillNext()"
      >
        Next move <kbd class="key">N</kbd>
      </UButton>
    </template>
    <template v-else-if="bench.tool === 'figure'">
      <USelect
        v-model="r.figure"
        :items="figureItems"
        class="h-11 w-40 bg-default"
        aria-label="Kind of figure"
      />
      <SignField
        v-model="figureText"
        class="w-80"
        label="Its measures"
        data-part="figure-text"
        @done="place('figure')"
      />
      <UCheckbox
        v-model="r.toScale"
        label="1 unit = 1 cm"
        class="bg-default px-2 py-2.5"
      />
      <UButton
        class="h-11"
        @click="place('figure')"
      >
        {{ placing }}
      </UButton>
      <ToolHint
        v-if="FIGURE_HINTS[r.figure as FigureKind]"
        :text="FIGURE_HINTS[r.figure as FigureKind]!"
      />
    </template>
    <template v-else-if="bench.tool === 'option'">
      <span
        v-if="!options.all.length"
        class="hint"
        >This question has no options; they are found on the Pages screen</span
      >
      <template v-else>
        <ChoiceRow
          v-model="r.optionTap"
          :items="TAPS"
          label="What a tap on an option means"
        />
        <span class="flex border border-default bg-default">
          <button
            v-for="o in options.all"
            :key="o.id"
            type="button"
            class="choice"
            :class="{ chosen: options.stateOf(o.label) !== 'open' }"
            :title="`${o.label} rules it out, Shift ${o.label} takes it as the answer, Alt ${o.label} keeps it`"
            @click="options.setOption(o.label, r.optionTap)"
          >
            <b>{{ o.label }}</b> {{ STATES[options.stateOf(o.label)] }}
          </button>
        </span>
        <UInput
          v-model="r.reason"
          :maxlength="300"
          list="reasons"
          size="lg"
          class="w-52 bg-default"
          placeholder="Reason, if it is to be seen"
          aria-label="Reason"
        />
        <datalist id="reasons">
          <option
            v-for="reason in REASONS"
            :key="reason"
            :value="reason"
          />
        </datalist>
      </template>
    </template>
    <template v-else-if="bench.tool === 'tally'">
      <SignField
        v-model="tally.number"
        class="w-44 bg-default"
        placeholder="Number"
        label="The next number, if it is not printed"
      />
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 bg-default"
        :disabled="!tally.current"
        @click="tally.current = null"
      >
        Another way
      </UButton>
      <span class="hint">Tap the numbers that the way passes</span>
    </template>
    <span
      v-else-if="bench.tool === 'light'"
      class="hint"
      >Drag over a piece: the rest steps back. Tap to end</span
    >
    <span
      v-else-if="bench.tool === 'closer'"
      class="hint"
      >Drag over a piece: students go closer. Tap to go back</span
    >
    <span
      v-else
      class="hint"
      >Draw: the trail fades by itself</span
    >
    <p
      v-if="bench.tool === 'guide' && guides.said && recording.state !== 'counting'"
      class="max-w-80 truncate border border-default bg-default px-2 py-1"
      role="status"
      data-part="said"
      :title="guides.said"
    >
      {{ guides.said }}
    </p>
  </div>
</template>

<style scoped>
.choice {
  min-height: 2.75rem;
  padding: 0 0.75rem;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
.choice + .choice {
  border-left: 1px solid var(--rule-fine);
}
.choice:hover {
  background: var(--ui-bg-elevated);
}
.choice.chosen {
  border-top-color: var(--frame);
  font-weight: 700;
  background: var(--ui-bg-elevated);
}
.hint {
  padding: 0.25rem 0.5rem;
  background: var(--ui-bg);
  border: 1px solid var(--ui-border);
}
</style>
