<script setup lang="ts">
import { questionName, type Question } from '#core/folio'
import { clockTime } from '#core/publish'

defineProps<{ current?: Question }>()
const store = useFolio()
const publish = usePublish()
const settings = useSettings()
const chosen = ref<Set<string>>(new Set())
const whole = ref(true)

onMounted(() => {
  void publish.findContainers()
})
watch(
  () => store.folio?.pages,
  () => {
    void publish.findPages()
  },
  { immediate: true },
)
const pageName = (id: string) => `Page ${store.folio!.pages.findIndex(p => p.id === id) + 1}`
watch(
  () => publish.recorded.map(q => q.id).join(),
  () => {
    chosen.value = new Set(publish.recorded.map(q => q.id))
  },
  { immediate: true },
)
function choose(id: string, on: boolean) {
  const next = new Set(chosen.value)
  if (on) next.add(id)
  else next.delete(id)
  chosen.value = next
}
const allChosen = computed({
  get: () => publish.recorded.length > 0 && publish.recorded.every(q => chosen.value.has(q.id)),
  set: (v: boolean) => {
    chosen.value = new Set(v ? publish.recorded.map(q => q.id) : [])
  },
})
const questions = computed(() => publish.recorded.filter(q => chosen.value.has(q.id)))
const containerItems = computed(() => [
  {
    label: 'MP4 (H.264, AAC): plays most widely',
    value: 'mp4' as const,
    disabled: !publish.containers.includes('mp4'),
  },
  { label: 'WebM (VP9, Opus): smaller', value: 'webm' as const, disabled: !publish.containers.includes('webm') },
])
const sizeItems = [
  { label: '1280 × 720', value: 1280 },
  { label: '1920 × 1080', value: 1920 },
]
const modeItems = [
  { label: 'On change', value: 'on-change' as const },
  { label: '30 a second', value: 'steady' as const },
]
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`
const left = (ms: number | null | undefined) =>
  ms == null ? '' : ms < 1500 ? 'nearly done' : `about ${clockTime(ms)} left`
const percent = (p: { done: number; total: number } | null) => (p ? Math.round((100 * p.done) / p.total) : 0)
/** Whether a question that is recorded has parts to tell apart. */
const hasParts = computed(() => publish.recorded.some(q => q.parts.filter(p => p.place).length > 1))
function start() {
  if (questions.value.length || whole.value)
    void publish.render(questions.value, whole.value && publish.recorded.length > 0)
}
useStageKeys('Publish', [
  {
    key: 'a',
    label: 'See the page as a student does',
    run: () => void publish.lookAsStudent(),
    when: () => publish.recorded.length > 0 && !publish.working,
  },
  { key: 'r', label: 'Render what is chosen', run: start, when: () => !publish.rendering },
  { key: 'Escape', label: 'Stop rendering', run: publish.cancel, when: () => publish.rendering },
  {
    key: 'z',
    label: 'Student page as a zip',
    run: () => {
      void publish.downloadZip()
    },
  },
])
const questionOf = (id: string | null) => store.questions.find(q => q.id === id)
</script>

<template>
  <div class="squared grid h-full grid-cols-[24rem_minmax(0,1fr)] gap-7 overflow-y-auto p-7">
    <section class="self-start border border-(--rule) bg-default">
      <h1 class="border-b border-(--rule-fine) px-5 py-3 text-xl font-semibold">Videos to render</h1>
      <div
        v-if="!publish.recorded.length"
        class="px-5 py-4 text-toned"
      >
        No question has been recorded yet.
        <UButton
          class="mt-3"
          :to="`/folio/${store.folio?.id}/solve`"
        >
          Go to Solve
        </UButton>
      </div>
      <template v-else>
        <div class="border-b border-(--rule-fine) px-5 py-2.5">
          <UCheckbox
            v-model="allChosen"
            label="All recorded questions"
          />
        </div>
        <ul class="max-h-64 overflow-y-auto">
          <li
            v-for="q in publish.recorded"
            :key="q.id"
            class="flex items-center gap-3 px-5 py-2"
          >
            <UCheckbox
              :model-value="chosen.has(q.id)"
              :label="questionName(q)"
              class="min-w-0 grow"
              @update:model-value="choose(q.id, $event === true)"
            />
            <StateMark :stage="store.stages.get(q.id) ?? 'recorded'" />
            <span class="w-16 text-right text-sm text-toned">{{ store.stages.get(q.id) }}</span>
          </li>
        </ul>
        <div class="border-y border-(--rule-fine) px-5 py-2.5">
          <UCheckbox
            v-model="whole"
            label="The whole folio in one, a chapter for each question"
          />
        </div>
        <div
          v-if="hasParts"
          class="flex flex-col gap-2.5 border-b border-(--rule-fine) px-5 py-2.5"
        >
          <UCheckbox
            v-model="settings.remembered.videosByPart"
            label="Also a video for each part of a question"
          />
          <UCheckbox
            v-model="settings.remembered.chaptersByPart"
            label="A chapter for each part instead of each step"
          />
        </div>
        <div class="flex flex-col gap-3 px-5 py-4">
          <UFormField label="Kind of file">
            <USelect
              v-model="settings.remembered.container"
              :items="containerItems"
              class="w-full"
            />
          </UFormField>
          <div class="grid grid-cols-2 gap-3">
            <UFormField label="Size">
              <USelect
                v-model="settings.remembered.width"
                :items="sizeItems"
                class="w-full"
              />
            </UFormField>
            <UFormField label="Pictures">
              <USelect
                v-model="settings.remembered.mode"
                :items="modeItems"
                class="w-full"
              />
            </UFormField>
          </div>
          <UButton
            size="xl"
            class="mt-1 justify-center"
            icon="i-lucide-clapperboard"
            :disabled="publish.rendering || (!questions.length && !whole)"
            @click="start"
          >
            Render {{ questions.length + (whole ? 1 : 0) }}
            {{ questions.length + (whole ? 1 : 0) === 1 ? 'video' : 'videos' }} <kbd class="key">R</kbd>
          </UButton>
        </div>
      </template>
    </section>

    <div class="flex min-w-0 flex-col gap-6 self-start">
      <section
        v-if="publish.tasks.length && publish.rendering"
        class="border border-(--rule) bg-default"
        data-part="render-tasks"
      >
        <header class="flex items-center border-b border-(--rule-fine) px-5 py-2.5">
          <h2 class="mr-auto text-lg font-semibold">Rendering</h2>
          <UButton
            color="neutral"
            variant="outline"
            @click="publish.cancel"
          >
            Stop <kbd class="key">Escape</kbd>
          </UButton>
        </header>
        <ul>
          <li
            v-for="task in publish.tasks"
            :key="task.key"
            class="grid grid-cols-[minmax(0,1fr)_12rem_10rem] items-center gap-4 px-5 py-2"
          >
            <span class="truncate">{{ task.label }}</span>
            <UProgress :model-value="task.state === 'done' ? 100 : percent(task.progress)" />
            <span class="text-right text-sm text-toned">{{
              task.state === 'running'
                ? `${percent(task.progress)} %, ${left(task.progress?.leftMs) || 'beginning'}`
                : task.state
            }}</span>
          </li>
        </ul>
      </section>

      <section class="border border-(--rule) bg-default">
        <h2 class="border-b border-(--rule-fine) px-5 py-3 text-lg font-semibold">For students</h2>
        <div class="px-5 py-4">
          <p class="text-toned">
            One page with every recorded question, replayed sharp on any screen: steps, search, your turn, practice and
            the worksheet. It works from a folder or any web host. Videos that are rendered go with it, for download.
          </p>
          <fieldset
            v-if="publish.pages.length"
            class="mt-3"
            data-part="worksheet"
          >
            <legend class="text-sm text-toned">
              Pages that students get as the worksheet, as they are seen in Pages
            </legend>
            <ul class="mt-1 flex max-h-28 flex-wrap gap-x-6 gap-y-1 overflow-y-auto">
              <li
                v-for="{ page, handed, why } in publish.pages"
                :key="page.id"
              >
                <UCheckbox
                  :model-value="handed"
                  :label="why === 'answers' ? `${pageName(page.id)}, with answers` : pageName(page.id)"
                  :disabled="store.readOnly"
                  @update:model-value="publish.hand(page.id, $event === true)"
                />
              </li>
            </ul>
          </fieldset>
          <div class="mt-4 flex flex-wrap items-center gap-3">
            <UButton
              color="neutral"
              variant="outline"
              icon="i-lucide-eye"
              :disabled="!publish.recorded.length || publish.working !== ''"
              @click="publish.lookAsStudent"
            >
              As a student <kbd class="key">A</kbd>
            </UButton>
            <AsStudent />
            <UButton
              icon="i-lucide-package"
              :disabled="!publish.recorded.length || publish.working !== ''"
              @click="publish.downloadZip"
            >
              Student page as a zip <kbd class="key">Z</kbd>
            </UButton>
            <UButton
              color="neutral"
              variant="outline"
              icon="i-lucide-send"
              :disabled="!publish.recorded.length || publish.working !== ''"
              @click="publish.toClassSite"
            >
              Publish on the class site (simulated)
            </UButton>
          </div>
          <div
            v-if="publish.working"
            class="mt-4 flex items-center gap-4"
            role="status"
          >
            <span>{{ publish.working }}</span>
            <UProgress
              class="grow"
              :model-value="publish.share === null ? null : Math.round(publish.share * 100)"
            />
            <UButton
              color="neutral"
              variant="outline"
              @click="publish.cancel"
            >
              Stop
            </UButton>
          </div>
          <p
            v-if="publish.link"
            class="mt-4 border-l-4 border-(--ui-success) pl-3"
          >
            Students find it here:
            <a
              class="break-all text-primary underline"
              data-part="class-link"
              :href="publish.link"
              target="_blank"
              rel="noopener"
              >{{ publish.link }}</a
            >
          </p>
        </div>
      </section>

      <HandIns v-if="publish.recorded.length" />

      <section class="border border-(--rule) bg-default">
        <h2 class="border-b border-(--rule-fine) px-5 py-3 text-lg font-semibold">Rendered</h2>
        <p
          v-if="!publish.videos.length"
          class="px-5 py-4 text-toned"
        >
          Videos stand here when they are done, with their chapters and captions.
        </p>
        <table
          v-else
          class="w-full text-sm"
        >
          <thead class="text-left text-toned">
            <tr class="border-b border-(--rule-fine)">
              <th class="px-5 py-2 font-normal">Video</th>
              <th class="py-2 pr-5 font-normal">Length</th>
              <th class="py-2 pr-5 font-normal">Size</th>
              <th class="py-2 pr-5 text-right font-normal">Files</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="{ publication: p, fresh } in publish.videos"
              :key="p.id"
              class="border-b border-(--rule-fine)"
              data-part="video"
            >
              <td class="w-full max-w-0 px-5 py-2.5">
                <QuestionTitle
                  v-if="questionOf(p.questionId)"
                  class="text-base"
                  :question="questionOf(p.questionId)!"
                />
                <p
                  v-else
                  class="truncate text-base"
                >
                  {{ p.questionId === null ? 'The whole folio' : p.name }}
                </p>
                <p class="text-toned">
                  <template v-if="p.part">Part {{ p.part }}: </template>{{ p.chapters.length }}
                  {{ p.chapters.length === 1 ? 'chapter' : 'chapters' }}, {{ p.size.replace('x', ' × ') }},
                  {{ p.mime === 'video/mp4' ? 'MP4' : 'WebM' }}
                  <strong v-if="!fresh"> — steps changed since; render it again</strong>
                </p>
              </td>
              <td class="whitespace-nowrap pr-5">
                {{ clockTime(p.durationMs) }}
              </td>
              <td class="whitespace-nowrap pr-5">
                {{ megabytes(p.bytes) }}
              </td>
              <td class="whitespace-nowrap pr-3 text-right">
                <UButton
                  variant="outline"
                  size="sm"
                  @click="publish.download(p)"
                >
                  Video
                </UButton>
                <UButton
                  class="ml-1.5"
                  variant="outline"
                  color="neutral"
                  size="sm"
                  @click="publish.downloadText(p, 'chapters')"
                >
                  Chapters
                </UButton>
                <UButton
                  class="ml-1.5"
                  variant="outline"
                  color="neutral"
                  size="sm"
                  @click="publish.downloadText(p, 'captions')"
                >
                  Captions
                </UButton>
                <UButton
                  class="ml-1"
                  color="neutral"
                  variant="ghost"
                  size="sm"
                  icon="i-lucide-trash-2"
                  :aria-label="`Remove ${p.name}`"
                  @click="publish.remove(p)"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
  </div>
</template>
