<script setup lang="ts">
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

/** The way of a folio, for whoever is here for the first time. */
const WAY = [
  ['Pages', 'Bring in the worksheet. Its questions are found; you accept or correct them.'],
  ['Solve', 'Write over the page while you talk. One key marks the end of a step.'],
  ['Proof', 'Read your solution as steps. Strike out what should not be there.'],
  ['Publish', 'One press checks the page and puts it under its link. Handouts and videos, if they are wanted.'],
] as const

async function create() {
  const folio = await shelf.create(title.value.trim() || 'Untitled folio')
  if (folio) await navigateTo(`/folio/${folio.id}/pages`)
}
function dropped(event: DragEvent) {
  over.value = false
  void openFiles(event.dataTransfer?.files)
}
async function openFiles(files: FileList | null | undefined) {
  const list = [...(files ?? [])]
  if (file.value) file.value.value = ''
  if (list.length) await shelf.openFiles(list)
}
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
    @drop.prevent="dropped"
  >
    <main class="mx-auto min-h-screen max-w-6xl border-x border-(--rule) bg-(--paper) px-10 py-9">
      <header class="flex items-start justify-between gap-6 border-b-2 border-(--rule) pb-6">
        <div>
          <div class="flex items-center gap-3">
            <img
              src="/mark.svg"
              alt=""
              class="size-11"
            />
            <h1 class="text-4xl font-semibold">Orthograph</h1>
          </div>
          <p class="mt-2 max-w-xl text-lg text-toned">
            Solve a worksheet by hand while you talk. Students follow each question step by step, under one link that
            stays.
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
          />
        </div>
      </header>

      <LostTakes class="mt-6" />

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
        <UButton
          color="neutral"
          variant="outline"
          @click="shelf.stop"
        >
          Stop
        </UButton>
      </p>
      <p
        v-if="shelf.unreadable"
        class="mt-6 bg-default p-3"
      >
        {{ shelf.unreadable === 1 ? 'One folio' : `${shelf.unreadable} folios` }} in this browser cannot be read by this
        version. {{ shelf.unreadable === 1 ? 'It is' : 'They are' }} left as
        {{ shelf.unreadable === 1 ? 'it is' : 'they are' }}.
      </p>

      <div class="mt-8 grid grid-cols-2 gap-7 xl:grid-cols-3">
        <form
          class="flex min-h-56 flex-col border border-dashed border-(--rule) bg-(--paper) p-5"
          @submit.prevent="create"
        >
          <h2 class="text-xl font-semibold">New folio</h2>
          <p class="mt-1 text-sm text-toned">For a worksheet, homework, quiz or past paper.</p>
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

        <FolioCard
          v-for="folio in shelf.folios"
          :key="folio.id"
          :folio="folio"
          :reached="shelf.reached.get(folio.id) ?? { rendered: new Set(), published: new Set() }"
          @save="shelf.saveAsFile(folio)"
          @remove="shelf.remove(folio)"
        />

        <button
          v-if="shelf.ready && !shelf.folios.some(f => f.id === 'balloon-day')"
          type="button"
          class="flex min-h-56 flex-col items-start border border-(--rule-fine) bg-(--paper) p-5 text-left hover:bg-default"
          @click="shelf.openSample()"
        >
          <span class="serif text-xl font-semibold">Balloon Day</span>
          <span class="mt-1 text-sm text-toned"
            >The sample folio: a two-page worksheet with five of its six questions solved. Look round in it before you
            begin your own.</span
          >
          <span class="mt-auto text-sm font-bold text-primary">Put it on the shelf</span>
        </button>
      </div>
      <ClassPageList class="mt-10" />
      <PublishedList
        class="mt-10"
        :folios="shelf.folios"
      />
      <ol class="mt-10 grid grid-cols-4 border border-(--rule-fine) bg-default">
        <li
          v-for="([name, what], i) in WAY"
          :key="name"
          class="border-r border-(--rule-fine) px-5 py-4 last:border-r-0"
        >
          <h3 class="text-lg font-semibold">
            <span class="mr-2 text-sm italic">{{ i + 1 }}</span
            >{{ name }}
          </h3>
          <p class="mt-1 text-sm text-toned">
            {{ what }}
          </p>
        </li>
      </ol>
      <p class="mt-6 text-sm text-toned">
        Everything stays in this browser until you publish it or save it as a file. You can drop folio files anywhere
        here. <kbd class="key">K</kbd> lists all keys.
        <a
          class="text-primary underline"
          href="/licences.txt"
          target="_blank"
          >What it is made of, and its licences</a
        >.
      </p>
    </main>
  </div>
</template>

<style scoped>
.over {
  outline: 3px dashed var(--frame);
  outline-offset: -8px;
}
</style>
