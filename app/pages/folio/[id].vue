<script setup lang="ts">
import { asTrouble, questionName, type Trouble } from '#core/folio'
import { warmUpPdf } from '~/paper/pageStore'

const route = useRoute()
const store = useFolio()
const shelf = useShelf()
const camera = useCamera()
onBeforeUnmount(camera.switchOff)
onMounted(warmUpPdf)
const recording = useRecording()
const notices = useNotices()
const keys = useKeys()
const missing = ref(false)
/** Why the folio cannot be opened, where it is here. */
const trouble = shallowRef<Trouble | null>(null)
const STAGES = [
  ['pages', 'Pages'],
  ['solve', 'Solve'],
  ['proof', 'Proof'],
  ['publish', 'Publish'],
] as const
const id = computed(() => String(route.params.id))
const stage = computed(() => STAGES.find(([path]) => route.path.includes(`/${id.value}/${path}`))?.[0] ?? 'pages')

watch(
  id,
  async value => {
    trouble.value = null
    try {
      missing.value = !(await store.open(value))
    } catch (error) {
      missing.value = true
      trouble.value = asTrouble(error, 'opening the folio')
    }
    await shelf.findLost().catch((error: unknown) => notices.tell(error, 'looking for takes that were cut off'))
  },
  { immediate: true },
)
onBeforeUnmount(() => store.close())
useHead({ title: () => (store.folio ? `${store.folio.title} · Orthograph` : 'Orthograph') })

const quiet = computed(() => recording.active)
const current = computed(() => store.questions.find(q => q.id === route.query.q) ?? store.questions[0])
// What is undone on Solve and Proof belongs to the question that is worked at.
watchEffect(() => {
  store.inView = stage.value === 'solve' || stage.value === 'proof' ? (current.value?.id ?? null) : null
})
const where = (path: string, q = current.value?.id) => ({ path: `/folio/${id.value}/${path}`, query: q ? { q } : {} })
function step(by: number) {
  const i = store.questions.findIndex(q => q.id === current.value?.id)
  const next = store.questions[i + by]
  if (next && !recording.active) void navigateTo(where(stage.value, next.id))
}
onBeforeRouteLeave(async () => leaveFolio())
onBeforeRouteUpdate(
  async (to, from) => to.path === from.path || (to.params.id === from.params.id ? leave() : leaveFolio()),
)
async function leave() {
  if (recording.active) await recording.stop()
  if (recording.state === 'unstored') {
    if (
      (await notices.ask(
        'Leave without the end of the take?',
        'It could not be stored. Save it to a file first, or make room; if you leave now, only what was stored of it is offered again.',
        'Leave without it',
      )) === null
    )
      return false
    recording.giveUp()
  }
  return true
}
/** Leaving the folio altogether asks while something of it is not stored. */
async function leaveFolio() {
  if (!(await leave())) return false
  await store.stored()
  return (
    store.saving === 'saved' ||
    (await notices.ask(
      'Leave what is not stored?',
      'Your last changes could not be stored: there is no room. Make room or save the folio as a file first; if you leave now, they are lost.',
      'Leave without them',
    )) !== null
  )
}
const unstored = computed(
  () => recording.active || recording.state === 'settling' || recording.settling.length > 0 || store.saving !== 'saved',
)
/** What is said of storing: of the folio, and of the take that runs or waits. */
const storedSign = computed(() => {
  if (store.saving === 'failed' || recording.state === 'unstored' || (recording.active && recording.room === 'none'))
    return 'not stored'
  return store.saving === 'saving' || recording.state === 'settling' ? 'storing' : 'everything stored'
})
useEventListener(window, 'beforeunload', event => {
  if (unstored.value) event.preventDefault()
})
const publishing = usePublish()
// What she works at will change once more; on Publish nothing does.
useSoundsAhead(
  () => publishing.recorded.filter(q => stage.value === 'publish' || q.id !== current.value?.id),
  () => stage.value === 'publish',
  () => recording.active || publishing.rendering || publishing.working !== '',
)
useStageKeys('This folio', [
  { key: 'PageDown', label: 'Next question', run: () => step(1) },
  { key: 'PageUp', label: 'Previous question', run: () => step(-1) },
  ...STAGES.map(([path, name], i) => ({
    key: `alt+${i + 1}`,
    label: `Go to ${name}`,
    run: () => {
      void navigateTo(where(path))
    },
  })),
  {
    key: 'ctrl+s',
    label: 'Save the folio as a file',
    run: () => {
      if (store.folio) void shelf.saveAsFile(store.folio)
    },
  },
])
</script>

<template>
  <div
    v-if="store.folio && store.folio.id === id"
    class="grid h-full grid-rows-[3.25rem_auto_1fr_3rem] overflow-hidden"
  >
    <PublishConcerns />
    <header class="flex items-stretch border-b border-(--rule) bg-default">
      <NuxtLink
        to="/"
        class="flex w-17 items-center justify-center border-r border-(--rule-fine) transition-opacity"
        :class="{ 'opacity-25': quiet }"
        :inert="quiet"
        aria-label="All folios"
        title="All folios"
      >
        <img
          src="/mark.svg"
          alt=""
          class="size-8"
        />
      </NuxtLink>
      <nav
        class="flex transition-opacity"
        :class="{ 'opacity-25': quiet }"
        :inert="quiet"
        aria-label="Stages"
      >
        <NuxtLink
          v-for="([path, name], i) in STAGES"
          :key="path"
          :to="where(path)"
          class="stage flex items-center gap-2.5 px-6 text-lg"
          :class="{ here: stage === path }"
          :aria-current="stage === path ? 'page' : undefined"
        >
          <span class="serif text-sm italic">{{ i + 1 }}</span>
          <span>{{ name }}</span>
        </NuxtLink>
      </nav>
      <CameraSign class="my-auto ml-auto" />
      <div
        class="flex items-center gap-1 px-3 transition-opacity"
        :class="{ 'opacity-25': quiet, 'ml-auto': !camera.on }"
        :inert="quiet"
      >
        <NuxtLink
          v-if="publishing.working && stage !== 'publish'"
          :to="where('publish')"
          class="mr-3 flex items-center gap-2 text-primary underline underline-offset-4"
          data-part="work-sign"
        >
          <UIcon name="i-lucide-hourglass" />
          <span role="status">{{ publishing.working }}</span>
          <span
            v-if="publishing.share !== null"
            class="tabular-nums"
            >{{ Math.round(publishing.share * 100) }} %</span
          >
        </NuxtLink>
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-download"
          :loading="shelf.busy !== ''"
          @click="shelf.saveAsFile(store.folio)"
        >
          Save as a file
        </UButton>
        <UColorModeButton />
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-keyboard"
          aria-label="All keys"
          @click="keys.listOpen = true"
        >
          <kbd class="key">K</kbd>
        </UButton>
      </div>
    </header>
    <div><ReadOnlyStrip /></div>

    <div class="grid min-h-0 grid-cols-[4.25rem_1fr]">
      <nav
        class="overflow-y-auto border-r border-(--rule) bg-default transition-opacity"
        :class="{ 'opacity-25': quiet }"
        :inert="quiet"
        aria-label="Questions"
        data-part="spine"
      >
        <NuxtLink
          v-for="q in store.questions"
          :key="q.id"
          :to="where(stage, q.id)"
          class="spine flex h-13 items-center justify-center gap-1.5 border-b border-(--rule-fine)"
          :class="{ here: q.id === current?.id }"
          :title="`${questionName(q)}: ${store.stages.get(q.id)}`"
          :aria-current="q.id === current?.id ? 'true' : undefined"
        >
          <span class="serif truncate text-xl">{{ q.number }}</span>
          <StateMark :stage="store.stages.get(q.id) ?? 'not started'" />
        </NuxtLink>
        <p
          v-if="!store.questions.length"
          class="p-2 text-center text-xs text-toned"
        >
          No questions yet
        </p>
      </nav>
      <div class="relative min-h-0 min-w-0">
        <LostTakes
          v-if="!recording.active && recording.state !== 'settling'"
          :folio-id="id"
          class="absolute left-6 right-6 top-4 z-40 shadow-lg"
        />
        <NuxtPage :current="current" />
      </div>
    </div>

    <footer
      class="title-block grid border-t border-(--rule) bg-default text-sm transition-opacity"
      :class="{ 'opacity-25': quiet }"
      :inert="quiet"
    >
      <FolioCell
        label="Folio"
        :value="store.folio.title"
        @change="
          v =>
            store.change('name the folio', f => {
              f.title = v
            })
        "
      />
      <FolioCell
        label="Course"
        :value="store.folio.course"
        @change="
          v =>
            store.change('name the course', f => {
              f.course = v
            })
        "
      />
      <FolioCell
        label="Made by"
        :value="store.folio.author"
        @change="
          v =>
            store.change('name the author', f => {
              f.author = v
            })
        "
      />
      <div class="cell">
        <span class="cell-label">Pages</span><span>{{ store.folio.pages.length }}</span>
      </div>
      <div class="cell">
        <span class="cell-label">Recorded</span
        ><span>{{ store.questions.filter(q => q.ledger).length }} of {{ store.questions.length }}</span>
      </div>
      <div
        class="cell"
        role="status"
      >
        <span class="cell-label">In this browser</span>
        <span
          v-if="store.readOnly"
          class="font-bold"
          >read only</span
        >
        <span v-else>{{ storedSign }}</span>
      </div>
    </footer>
  </div>
  <main
    v-else-if="missing"
    class="squared grid h-full place-items-center"
  >
    <div class="bg-(--paper) p-6 text-center">
      <h1 class="text-2xl font-semibold">
        {{ trouble ? 'This folio cannot be opened' : 'This folio is not in this browser' }}
      </h1>
      <p
        v-if="trouble"
        class="my-3 max-w-prose"
        :data-trouble="trouble.code"
      >
        {{ trouble.message }} {{ trouble.safe }} {{ trouble.next }}
      </p>
      <p
        v-else
        class="my-3 text-toned"
      >
        It may be in another browser, or it was removed. If you saved it as a file, open that.
      </p>
      <UButton to="/"> All folios </UButton>
    </div>
  </main>
</template>

<style scoped>
.stage {
  color: var(--lead-soft);
  border-right: 1px solid var(--rule-fine);
  position: relative;
}
.stage.here {
  color: var(--lead);
  font-weight: 700;
}
.stage.here::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: -1px;
  height: 4px;
  background: var(--frame);
}
.spine.here {
  background: var(--color-ink-100);
  box-shadow: inset 4px 0 0 var(--frame);
  color: var(--color-ink-900);
}
.dark .spine.here {
  background: var(--color-ink-900);
  color: var(--color-ink-50);
}
.title-block {
  grid-template-columns: 2fr 1.6fr 1.2fr 5rem 7rem 13rem;
}
.cell {
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 0.2rem;
  padding: 0 0.875rem;
  border-left: 1px solid var(--rule-fine);
  white-space: nowrap;
  overflow: hidden;
}
</style>
