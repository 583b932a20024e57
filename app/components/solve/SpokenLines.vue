<script setup lang="ts">
import type { Board } from '#core/recording'
import { spokenMaths } from '../../board/spokenMaths'

/** The typed lines of the board for those who hear them: as MathML, which screen readers speak. */
const props = defineProps<{ board: Board }>()
const list = ref<HTMLElement>()
const lines = computed(() =>
  props.board.things.flatMap(t =>
    t.thing.kind === 'line' ? [{ key: t.version, mathml: t.thing.set.mathml, source: t.thing.source }] : [],
  ),
)

watch(
  lines,
  now => {
    if (!list.value) return
    list.value.replaceChildren(
      ...now.map(({ mathml, source }) => {
        const item = document.createElement('li')
        item.append(spokenMaths(mathml) ?? source)
        return item
      }),
    )
  },
  { flush: 'post', immediate: true },
)
</script>

<template>
  <ol
    ref="list"
    class="sr-only"
    aria-live="polite"
    aria-label="Typed lines on the board"
    data-part="spoken"
  />
</template>
