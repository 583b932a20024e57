<script setup lang="ts">
import { clockTime } from '#core/publish'
import { ofWhat } from '../../stores/shelf'

/** Offers takes that were cut off: of all folios on the shelf, of the open one inside it. */
const props = defineProps<{ folioId?: string }>()
const shelf = useShelf()
const items = computed(() => shelf.lost.filter(l => !props.folioId || l.folio.id === props.folioId))
</script>

<template>
  <section
    v-for="item in items"
    :key="item.take.id"
    class="flex items-center gap-4 border border-l-4 border-(--taking) bg-default p-4"
    data-part="lost-take"
  >
    <div class="grow">
      <h2 class="text-lg font-semibold">A take was cut off at {{ clockTime(item.durationMs) }}</h2>
      <p class="text-sm text-toned">
        {{ ofWhat(item) }}. {{ item.take.clip ? 'Picture' : 'Ink' }} and sound up to the last second are here.
      </p>
    </div>
    <UButton
      :loading="shelf.busy !== ''"
      @click="shelf.keepLost(item)"
    >
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
</template>
