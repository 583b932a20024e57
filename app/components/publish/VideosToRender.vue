<script setup lang="ts">
import { questionName } from '#core/folio'

/** Which videos are made, and how; a student page needs none. */
const store = useFolio()
const publish = usePublish()
const settings = useSettings()
const chosen = ref<Set<string>>(new Set())
const whole = ref(true)
onMounted(() => {
  void publish.findContainers()
})
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
/** Whether a question that is recorded has parts to tell apart. */
const hasParts = computed(() => publish.recorded.some(q => q.parts.filter(p => p.place).length > 1))
function start() {
  if (questions.value.length || whole.value)
    void publish.render(questions.value, whole.value && publish.recorded.length > 0)
}
defineExpose({ start })
</script>

<template>
  <section class="self-start border border-(--rule) bg-default">
    <h2 class="border-b border-(--rule-fine) px-5 py-3 text-lg font-semibold">Videos to render</h2>
    <p
      v-if="!publish.recorded.length"
      class="px-5 py-4 text-toned"
    >
      The student page needs none. Where they are wanted, for download or for a host that plays videos, they are made
      here.
    </p>
    <template v-else>
      <div class="border-b border-(--rule-fine) px-5 py-2.5">
        <UCheckbox
          v-model="allChosen"
          label="All recorded questions"
        />
      </div>
      <ul
        class="max-h-64 overflow-y-auto"
        data-part="to-render"
      >
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
          color="neutral"
          variant="outline"
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
</template>
