import {
  newId,
  Page,
  removePage,
  rotationHindrance,
  rotatePage,
  type Box,
  type Frame,
  type Paper,
  type Question,
} from '#core/folio'

/** What is drawn with on the Pages screen. */
export type PageTool = 'regions' | 'split' | 'room' | 'patch' | 'frame'

/** State of the Pages screen: the tool in hand, the page in view, and what is done to whole pages. */
export const usePages = defineStore('pages', () => {
  const store = useFolio()
  const incoming = useIncoming()
  const notices = useNotices()
  const settings = useSettings()
  const tool = ref<PageTool>('regions')
  const page = ref<string | null>(null)
  const patching = shallowRef<{ pageId: string; box: Box; before: string; size: number } | null>(null)
  /** The chosen frame, as its question's id and its place in the order. */
  const frame = ref<string | null>(null)
  const current = computed(() => store.folio?.pages.find(p => p.id === page.value) ?? null)

  /** Changes the frames of a question: those that were set, or the proposed ones; none are proposed anew. */
  function setFrames(question: Question, edit: (frames: Frame[]) => Frame[]) {
    store.changeQuestion(question.id, 'set the frames', q => {
      q.frames = edit(JSON.parse(JSON.stringify(store.frames(question))) as Frame[])
    })
  }
  /** Removes a frame; the last one stays. */
  function removeFrame(question: Question, i: number) {
    if (store.frames(question).length < 2) return notices.say('A question keeps one frame. Draw another one first.')
    setFrames(question, all => all.filter((_, k) => k !== i))
    frame.value = null
  }

  /** Adds a blank page after the one in view; the paper is remembered. */
  function addBlank(paper: Paper = settings.remembered.paper, dark: boolean = settings.remembered.darkPaper) {
    settings.remembered.paper = paper
    settings.remembered.darkPaper = dark
    const { width, height } = current.value?.kind === 'blank' ? current.value : { width: 841.89, height: 595.28 }
    add('add a blank page', { kind: 'blank', paper, dark, width, height })
  }

  /**
   * Adds a page that the application draws itself.
   * @param at index; after the page in view when left out
   * @returns its id
   */
  function add(label: string, what: object, at?: number): string {
    const id = newId()
    const i = at ?? (store.folio?.pages.findIndex(p => p.id === page.value) ?? -1) + 1
    store.change(label, draft =>
      draft.pages.splice(at === undefined && !page.value ? draft.pages.length : i, 0, Page.parse({ id, ...what })),
    )
    page.value = id
    return id
  }

  function turn() {
    if (!current.value) return
    const { id } = current.value
    const hindrance = rotationHindrance(
      current.value,
      store.takes.some(t => t.frame.pageId === id),
    )
    if (hindrance) notices.say(hindrance)
    else store.change('turn the page', draft => rotatePage(draft, id))
  }

  function remove() {
    const id = current.value?.id
    if (id) store.change('take the page out', draft => removePage(draft, id))
  }

  /** Looks for the questions of every page that has none yet. */
  async function find() {
    const taken = new Set(store.questions.flatMap(q => q.regions.map(r => r.pageId)))
    const free =
      store.folio?.pages.filter(p => !taken.has(p.id) && (p.kind === 'pdf' || p.kind === 'image')).map(p => p.id) ?? []
    if (!free.length)
      return notices.say(
        'Every page has its questions already. To look anew, remove the questions of a page first; undo brings them back.',
      )
    await incoming.findQuestions(free, false)
  }

  /** Opens the dialog for a patch over a piece of a page, with the words that stand there. */
  async function askPatch(pageId: string, box: Box) {
    const { before, size } = await store.wordsIn(pageId, box)
    patching.value = { pageId, box, before, size }
  }

  return { tool, page, frame, current, patching, setFrames, removeFrame, add, addBlank, turn, remove, find, askPatch }
})
