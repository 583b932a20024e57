<script setup lang="ts">
import { clockTime, megabytes } from '#core/publish'

/** Videos that are being made, and those that there are, with what stands beside them. */
const store = useFolio()
const publish = usePublish()
const left = (ms: number | null | undefined) =>
  ms == null ? '' : ms < 1500 ? 'nearly done' : `about ${clockTime(ms)} left`
const percent = (p: { done: number; total: number } | null) => (p ? Math.round((100 * p.done) / p.total) : 0)
const questionOf = (id: string | null) => store.questions.find(q => q.id === id)
</script>

<template>
  <div class="flex min-w-0 flex-col gap-6">
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
      <header class="flex items-center border-b border-(--rule-fine) px-5 py-2.5">
        <h2 class="mr-auto text-lg font-semibold">Rendered</h2>
        <UButton
          v-if="publish.videos.filter(v => v.fresh).length > 1"
          color="neutral"
          variant="outline"
          icon="i-lucide-package"
          :disabled="publish.working !== ''"
          @click="publish.downloadVideos"
        >
          All as one zip
        </UButton>
      </header>
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
</template>
