<script setup lang="ts">
import type { Folio, Frame, Page } from '#core/folio'
import { turnCard } from '#core/scene'
import type { Board } from '#core/recording'
import { BoardSurface } from '../../board/surface'

/** What students see at one moment: the frame and nothing else. */
const props = defineProps<{
  page: Page
  folio: Folio
  frame: Frame
  board: Board
  holding?: { seconds: number; left: number } | null
}>()
const notices = useNotices()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(canvas)
let surface: BoardSurface | null = null

onMounted(() => {
  surface = new BoardSurface(canvas.value!, null, error => notices.tell(error, 'showing the page'))
})
const view = computed(() => props.board.look ?? props.frame.box)
watch(
  [width, height, () => props.frame, () => props.page.id, () => JSON.stringify(view.value)],
  () => {
    if (width.value > 0) surface?.place(props.page, props.folio, props.frame, view.value, width.value, height.value)
  },
  { flush: 'post' },
)
const show = () =>
  surface?.show(
    props.board,
    undefined,
    props.holding ? [turnCard(view.value, props.holding.seconds, props.holding.left)] : [],
  )
watch([() => props.board, width, () => props.holding && Math.ceil(props.holding.left)], show, { flush: 'post' })
</script>

<template>
  <canvas
    ref="canvas"
    class="block aspect-video w-full"
    role="img"
    aria-label="The board as students see it"
    data-part="proof-board"
  />
</template>
