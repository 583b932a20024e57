<script setup lang="ts">
import type { Question } from '#core/folio'

defineProps<{ current?: Question }>()
const store = useFolio()
const publish = usePublish()
const packages = usePackages()
const site = useClassSite()
const dates = ref(false)
const versions = ref(false)
const handout = ref(false)
const others = [
  {
    label: 'Course package (Common Cartridge)',
    icon: 'i-lucide-graduation-cap',
    onSelect: () => void packages.cartridge(),
  },
  {
    label: 'Dates for a calendar',
    icon: 'i-lucide-calendar',
    onSelect: () => packages.calendar(),
  },
  {
    label: 'Feed of the videos (RSS)',
    icon: 'i-lucide-rss',
    onSelect: () => void packages.feed(),
  },
  {
    label: 'Its address on another host',
    icon: 'i-lucide-globe',
    onSelect: () => void packages.askAddress(),
  },
]
const videos = useTemplateRef('videos')
onMounted(() => {
  void site.refresh()
})
// Who comes back to the window finds what has come meanwhile.
useEventListener('focus', () => {
  if (!publish.working) void site.refresh()
})
watch(
  () => store.folio?.pages,
  () => {
    void publish.findPages()
  },
  { immediate: true },
)
const pageName = (id: string) => `Page ${store.folio!.pages.findIndex(p => p.id === id) + 1}`
useStageKeys('Publish', [
  {
    key: 'a',
    label: 'See the page as a student does',
    run: () => void publish.lookAsStudent(),
    when: () => publish.recorded.length > 0 && !publish.working,
  },
  {
    key: 'p',
    label: 'Publish',
    run: () => void site.toStudents(),
    when: () => publish.recorded.length > 0 && !publish.working && !store.readOnly,
  },
  { key: 'd', label: 'Cuts and dates', run: () => (dates.value = true), when: () => publish.recorded.length > 0 },
  { key: 'h', label: 'Handout', run: () => (handout.value = true), when: () => publish.recorded.length > 0 },
  { key: 'v', label: 'Versions', run: () => (versions.value = true), when: () => !!site.published },
  { key: 'r', label: 'Render what is chosen', run: () => videos.value?.start(), when: () => !publish.rendering },
  { key: 'Escape', label: 'Stop rendering', run: publish.cancel, when: () => publish.rendering },
  {
    key: 'z',
    label: 'Student page as a zip',
    run: () => {
      void packages.zip()
    },
  },
])
</script>

<template>
  <div class="squared grid h-full grid-cols-[minmax(0,1fr)_22rem] items-start gap-6 overflow-y-auto p-6">
    <div class="flex min-w-0 flex-col gap-6">
      <section class="border border-(--rule) bg-default">
        <h1 class="border-b border-(--rule-fine) px-5 py-3 text-xl font-semibold">For students</h1>
        <div class="px-5 py-4">
          <p
            v-if="!publish.recorded.length"
            class="mb-3"
          >
            No question has been recorded yet.
            <UButton
              class="ml-3"
              :to="`/folio/${store.folio?.id}/solve`"
            >
              Go to Solve
            </UButton>
          </p>
          <p class="text-toned">
            One page with every recorded question, replayed sharp on any screen: steps, search, your turn, practice and
            the worksheet. It stands under one link, which stays while the page gets better.
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
          <StudentLink class="mt-4">
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
              color="neutral"
              variant="outline"
              icon="i-lucide-calendar-clock"
              :disabled="!publish.recorded.length"
              @click="dates = true"
            >
              Cuts and dates <kbd class="key">D</kbd>
            </UButton>
            <UButton
              v-if="site.published"
              color="neutral"
              variant="outline"
              icon="i-lucide-history"
              @click="versions = true"
            >
              Versions <kbd class="key">V</kbd>
            </UButton>
            <UButton
              color="neutral"
              variant="outline"
              icon="i-lucide-file-text"
              :disabled="!publish.recorded.length || publish.working !== ''"
              @click="handout = true"
            >
              Handout <kbd class="key">H</kbd>
            </UButton>
            <UButton
              color="neutral"
              variant="outline"
              icon="i-lucide-package"
              :disabled="!publish.recorded.length || publish.working !== ''"
              @click="packages.zip"
            >
              Student page as a zip <kbd class="key">Z</kbd>
            </UButton>
            <UDropdownMenu :items="others">
              <UButton
                color="neutral"
                variant="outline"
                icon="i-lucide-ellipsis"
                :disabled="!publish.recorded.length || publish.working !== ''"
              >
                Other files
              </UButton>
            </UDropdownMenu>
          </StudentLink>
          <CutsAndDates v-model:open="dates" />
          <VersionList v-model:open="versions" />
          <HandoutDialog v-model:open="handout" />
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
          <CheckReport v-else-if="publish.report" />
        </div>
      </section>

      <HandIns v-if="publish.recorded.length" />
      <RenderedVideos />
    </div>
    <VideosToRender ref="videos" />
  </div>
</template>
