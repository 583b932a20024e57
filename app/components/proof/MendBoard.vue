<script setup lang="ts">
import type { Frame, Page } from '#core/folio'
import { keyOfRole, PEN_ROLES } from '#core/ink'
import { TOOLS, type ToolId } from '../../board/tools'

/** The board at the moment shown, to be mended with the tools of Solve. */
defineProps<{ page: Page; frame: Frame }>()
const bench = useBench()
const mending = useMending()
const settings = useSettings()
/** What students only see for a while is not mended. */
const LEFT: readonly ToolId[] = ['light', 'pointer', 'closer']
const nudge = (x: number, y: number) => () => bench.nudge(x, y)
const choosing = () => bench.selection.length > 0

useStageKeys('Mend', [
  ...PEN_ROLES.map(role => ({ key: keyOfRole(role), label: '', run: () => bench.recolour(role), when: choosing })),
  ...PEN_ROLES.map(role => ({ key: keyOfRole(role), label: `Pen: ${role}`, run: () => bench.choose(role) })),
  ...TOOLS.filter(t => !LEFT.includes(t.id)).map(t => ({
    key: t.key,
    label: `${t.label}: ${t.use}`,
    run: () => bench.choose(t.id),
  })),
  {
    key: 'x',
    label: 'Straight lines and shapes',
    run: () => {
      bench.straight = !bench.straight
    },
  },
  { key: 'e', label: 'Eraser', run: () => bench.choose('eraser') },
  { key: 'a', label: 'Write what is chosen anew', run: () => mending.writeAnew() },
  { key: 'shift+a', label: 'Also here: what was written anew, in place of what is chosen', run: mending.alsoHere },
  { key: 'Delete', label: 'Remove what is chosen', run: bench.removeChosen, when: choosing },
  { key: 'ArrowRight', label: '', run: nudge(2, 0), when: choosing },
  { key: 'ArrowLeft', label: 'Arrows move what is chosen', run: nudge(-2, 0), when: choosing },
  { key: 'ArrowUp', label: '', run: nudge(0, -2), when: choosing },
  { key: 'ArrowDown', label: '', run: nudge(0, 2), when: choosing },
  { key: 'Escape', label: 'Done mending', run: mending.end },
])
</script>

<template>
  <div
    class="relative flex min-h-0 grow flex-col"
    data-part="mend"
  >
    <p class="flex items-center gap-3 border border-(--rule) bg-default px-3 py-2 text-sm">
      <span class="min-w-0 grow">
        {{
          mending.rewriting
            ? 'Write it now: it takes the time of the old one.'
            : 'What you change here was always so; what you write comes at this moment.'
        }}
      </span>
      <UButton
        size="sm"
        class="shrink-0 whitespace-nowrap"
        variant="outline"
        icon="i-lucide-pencil-line"
        :disabled="!bench.selection.length"
        @click="mending.writeAnew()"
      >
        Write anew <kbd class="key">A</kbd>
      </UButton>
      <UButton
        v-if="mending.repeatable"
        size="sm"
        class="shrink-0 whitespace-nowrap"
        color="neutral"
        variant="outline"
        icon="i-lucide-copy-plus"
        title="What was written anew last, in place of what is chosen now (Shift A)"
        :disabled="!bench.selection.length"
        @click="mending.alsoHere()"
      >
        Also here
      </UButton>
      <UButton
        size="sm"
        icon="i-lucide-check"
        @click="mending.end"
      >
        Done <kbd class="key">Esc</kbd>
      </UButton>
    </p>
    <SolveBoard
      :page="page"
      :frame="frame"
      :tray-side="settings.remembered.traySide"
      :shown="[]"
      :first="null"
      class="min-h-0 grow"
    >
      <template #default="{ seenPx }">
        <TrayBeside
          :seen="seenPx"
          class="overflow-y-auto"
          style="top: 8px; max-height: calc(100% - 132px)"
        />
        <div
          class="absolute inset-x-2 bottom-2 border border-(--rule) bg-default"
          data-part="tools"
        >
          <ToolOptions class="overflow-x-auto border-b border-(--rule-fine) px-1 py-0.5" />
          <ToolBench :without="LEFT" />
        </div>
      </template>
    </SolveBoard>
  </div>
</template>
