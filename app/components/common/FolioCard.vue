<script setup lang="ts">
import { stageOf, type Folio, type Reached } from '#core/folio'
import { dayOf } from '#core/publish'
import { pictureOfPage } from '../../paper/pageStore'

/** A folio on the shelf: its first page, the state of its questions, and a title block. */
const props = defineProps<{ folio: Folio; reached: Reached }>()
const emit = defineEmits<{ save: []; remove: [] }>()
const holder = ref<HTMLElement>()

onMounted(async () => {
  const page = props.folio.pages[0]
  if (!page) return
  try {
    const width = 110
    const canvas = await pictureOfPage(
      page,
      props.folio,
      { x: 0, y: 0, w: page.width, h: page.height },
      (width / page.width) * Math.min(2, devicePixelRatio) * 1.5,
    )
    canvas.className = 'w-full'
    holder.value?.replaceChildren(canvas)
  } catch {
    /* Without its little picture the folio can still be opened, and says there what is wrong. */
  }
})
</script>

<template>
  <article
    class="ticks relative flex min-h-60 flex-col border border-(--rule) bg-default"
    data-part="folio"
  >
    <NuxtLink
      :to="`/folio/${folio.id}/pages`"
      class="flex grow gap-4 p-4 hover:bg-elevated/60"
    >
      <div
        ref="holder"
        class="h-36 w-26 shrink-0 overflow-hidden border border-(--rule-fine) bg-white"
        aria-hidden="true"
      />
      <div class="min-w-0">
        <h2 class="text-2xl font-semibold leading-tight break-words">
          {{ folio.title }}
        </h2>
        <p class="mt-1 text-sm text-toned">
          {{ folio.course || 'No course named' }}
        </p>
        <p class="mt-3 flex flex-wrap gap-x-2.5 gap-y-1">
          <span
            v-for="q in folio.questions.slice(0, 18)"
            :key="q.id"
            class="serif inline-flex items-center gap-1 text-sm"
            >{{ q.number }}<StateMark :stage="stageOf(q, reached)"
          /></span>
          <span
            v-if="folio.questions.length > 18"
            class="text-sm text-toned"
            >and {{ folio.questions.length - 18 }} more</span
          >
        </p>
      </div>
    </NuxtLink>
    <div class="flex border-t border-(--rule) text-sm">
      <dl class="grid grow grid-cols-[3.5rem_5.2rem_1fr]">
        <div class="border-r border-(--rule-fine) px-3 py-2">
          <dt class="cell-label">Pages</dt>
          <dd class="mt-1">
            {{ folio.pages.length }}
          </dd>
        </div>
        <div class="border-r border-(--rule-fine) px-3 py-2">
          <dt class="cell-label">Recorded</dt>
          <dd class="mt-1">{{ folio.questions.filter(q => q.ledger).length }} of {{ folio.questions.length }}</dd>
        </div>
        <div class="px-3 py-2">
          <dt class="cell-label">Changed</dt>
          <dd class="mt-1 whitespace-nowrap">
            {{ dayOf(folio.updatedAt) }}
          </dd>
        </div>
      </dl>
      <div class="flex items-center px-1">
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-download"
          :aria-label="`Save ${folio.title} as a file`"
          title="Save as a file"
          @click="emit('save')"
        />
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-trash-2"
          :aria-label="`Remove ${folio.title}`"
          title="Remove"
          @click="emit('remove')"
        />
      </div>
    </div>
  </article>
</template>
