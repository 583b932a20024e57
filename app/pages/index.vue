<script setup lang="ts">
import type { Folio } from '#core/folio'
import { stageOf } from '#core/folio'
import { clockTime } from '#core/publish'

const shelf = useShelf()
const open = useFolio()
const config = useRuntimeConfig()
const title = ref('')
const file = ref<HTMLInputElement>()
const over = ref(false)

onMounted(() => {
  open.close()
  void shelf.load(String(config.public.demo) === 'true' || config.public.demo === true)
})

async function create() {
  const folio = await shelf.create(title.value.trim() || 'Untitled folio')
  if (folio) await navigateTo(`/folio/${folio.id}/pages`)
}
async function openFiles(files: FileList | null | undefined) {
  const list = [...files ?? []]
  if (file.value) file.value.value = ''
  if (list.length) await shelf.openFiles(list)
}
const counts = (folio: Folio) => {
  const recorded = folio.questions.filter(q => q.ledger).length
  return `${folio.questions.length} questions, ${recorded} recorded`
}
const day = (iso: string) => new Date(iso).toLocaleDateString(undefined, { day: 'numeric', month: 'long', year: 'numeric' })
const none = new Set<string>()
useStageKeys('Folios', [
  { key: 'n', label: 'New folio', run: () => document.getElementById('new-title')?.focus() },
  { key: 'o', label: 'Open a folio file', run: () => file.value?.click() },
])
</script>

<template>
  <div
    class="squared min-h-full"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="over = false; openFiles($event.dataTransfer?.files)"
  >
    <main class="mx-auto max-w-5xl px-6 py-9">
      <header class="flex items-end justify-between gap-6">
        <div>
          <div class="flex items-center gap-3">
            <img
              src="/mark.svg"
              alt=""
              class="size-11"
            >
            <h1 class="text-4xl font-semibold">
              Orthograph
            </h1>
          </div>
          <p class="mt-2 max-w-xl bg-(--paper) text-lg text-toned">
            Solve a worksheet by hand while you talk. Students get one chaptered video for each question.
          </p>
        </div>
        <div class="flex gap-2">
          <UColorModeButton />
          <UButton
            color="neutral"
            variant="outline"
            icon="i-lucide-folder-open"
            @click="file?.click()"
          >
            Open a folio file <kbd class="key">O</kbd>
          </UButton>
          <input
            ref="file"
            type="file"
            accept=".folio,.zip"
            multiple
            class="hidden"
            aria-label="Folio file"
            @change="openFiles(($event.target as HTMLInputElement).files)"
          >
        </div>
      </header>

      <section
        v-for="item in shelf.lost"
        :key="item.take.id"
        class="mt-6 flex items-center gap-4 border border-l-4 border-(--taking) bg-default p-4"
        data-part="lost-take"
      >
        <div class="grow">
          <h2 class="text-lg font-semibold">
            A take was cut off at {{ clockTime(item.durationMs) }}
          </h2>
          <p class="text-sm text-toned">
            {{ item.folio.title }}, question {{ item.folio.questions.find(q => q.id === item.take.questionId)?.number ?? '?' }}. Ink and sound up to the last second are here.
          </p>
        </div>
        <UButton @click="shelf.keepLost(item)">
          Keep the take
        </UButton>
        <UButton
          color="neutral"
          variant="outline"
          @click="shelf.dropLost(item)"
        >
          Throw it away
        </UButton>
      </section>

      <p
        v-if="shelf.busy"
        class="mt-6 flex items-center gap-4 bg-default p-3"
        role="status"
      >
        <span>{{ shelf.busy }}</span>
        <UProgress
          :model-value="shelf.share === null ? null : Math.round(shelf.share * 100)"
          class="grow"
        />
      </p>
      <p
        v-if="shelf.unreadable"
        class="mt-6 bg-default p-3"
      >
        {{ shelf.unreadable }} folio in this browser cannot be read by this version. It is left as it is.
      </p>

      <div class="mt-8 grid grid-cols-3 gap-7">
        <form
          class="flex min-h-56 flex-col border border-dashed border-(--rule) bg-(--paper) p-5"
          @submit.prevent="create"
        >
          <h2 class="text-xl font-semibold">
            New folio
          </h2>
          <p class="mt-1 text-sm text-toned">
            For a worksheet, homework, quiz or past paper.
          </p>
          <UFormField
            label="Title"
            class="mt-4"
          >
            <UInput
              id="new-title"
              v-model="title"
              placeholder="Quadratics, sheet 3"
              class="w-full"
              :maxlength="300"
            />
          </UFormField>
          <UButton
            type="submit"
            class="mt-auto self-start"
            icon="i-lucide-file-plus"
          >
            Begin with its pages
          </UButton>
        </form>

        <article
          v-for="folio in shelf.folios"
          :key="folio.id"
          class="ticks relative flex min-h-56 flex-col border border-(--rule) bg-default"
          data-part="folio"
        >
          <NuxtLink
            :to="`/folio/${folio.id}/pages`"
            class="grow p-5 hover:bg-elevated/60"
          >
            <h2 class="text-2xl font-semibold leading-tight">
              {{ folio.title }}
            </h2>
            <p class="mt-1 text-sm text-toned">
              {{ folio.course || 'No course named' }}
            </p>
            <p class="mt-3 flex flex-wrap gap-x-2.5 gap-y-1">
              <span
                v-for="q in folio.questions.slice(0, 24)"
                :key="q.id"
                class="serif inline-flex items-center gap-1 text-sm"
              >{{ q.number }}<StateMark :stage="stageOf(q, none)" /></span>
            </p>
          </NuxtLink>
          <dl class="grid grid-cols-[1fr_1fr_auto] border-t border-(--rule) text-sm">
            <div class="border-r border-default px-3 py-2">
              <dt class="cell-label">
                Pages and questions
              </dt>
              <dd class="mt-1">
                {{ folio.pages.length }} p., {{ counts(folio) }}
              </dd>
            </div>
            <div class="px-3 py-2">
              <dt class="cell-label">
                Changed
              </dt>
              <dd class="mt-1">
                {{ day(folio.updatedAt) }}
              </dd>
            </div>
            <div class="flex items-center border-l border-default px-1">
              <UButton
                color="neutral"
                variant="ghost"
                icon="i-lucide-download"
                :aria-label="`Save ${folio.title} as a file`"
                title="Save as a file"
                @click="shelf.saveAsFile(folio)"
              />
              <UButton
                color="neutral"
                variant="ghost"
                icon="i-lucide-trash-2"
                :aria-label="`Remove ${folio.title}`"
                title="Remove"
                @click="shelf.remove(folio)"
              />
            </div>
          </dl>
        </article>

        <button
          v-if="shelf.ready && !shelf.folios.some(f => f.id === 'balloon-day')"
          type="button"
          class="flex min-h-56 flex-col items-start border border-(--rule-fine) bg-(--paper) p-5 text-left hover:bg-default"
          @click="shelf.openSample()"
        >
          <span class="serif text-xl font-semibold">Balloon Day</span>
          <span class="mt-1 text-sm text-toned">The sample folio: a two-page worksheet with three questions already solved. Look round in it before you begin your own.</span>
          <span class="mt-auto text-sm font-bold text-primary">Put it on the shelf</span>
        </button>
      </div>
      <p class="mt-8 bg-(--paper) text-sm text-toned">
        Everything stays in this browser until you publish it or save it as a file. You can drop folio files anywhere here. <kbd class="key">K</kbd> lists all keys.
      </p>
    </main>
  </div>
</template>

<style scoped>
.over { outline: 3px dashed var(--frame); outline-offset: -8px; }
</style>
