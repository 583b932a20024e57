import { frameOf, type ArchiveFile, type Folio, type Question } from '#core/folio'
import { questionFileNames, shownAt, type ClosedQuestion } from '#core/publish'
import { POSTER_WIDTH, TAG, type PageOptions, type Place } from './package'
import { printOf } from './print'
import { shaOf } from './sha'
import { pictureOfMoment } from './still'

/** What the page has of a question that is not open yet, and the files that belong to it. */
interface Closed {
  listed: Omit<ClosedQuestion, 'opens'>
  files: ArchiveFile[]
}

/** Questions of which students get no solution yet: what is asked, in words and as it is printed. Each is read once. */
export class ClosedQuestions {
  private readonly known = new Map<string, Promise<Closed>>()

  constructor(
    private readonly folio: Folio,
    private readonly host: PageOptions['host'],
    private readonly place: Place = path => path,
  ) {}

  /** As it stands on the page at a moment, ms since 1970. */
  async get(question: Question, moment: number): Promise<{ listed: ClosedQuestion; files: ArchiveFile[] }> {
    const { id } = question
    if (!this.known.has(id)) this.known.set(id, this.read(question))
    const { listed, files } = await this.known.get(id)!
    return { listed: { ...listed, opens: new Date(shownAt(question, moment).next!).toISOString() }, files }
  }

  private async read(question: Question): Promise<Closed> {
    const { id, number, title } = question
    const listed = { id, number, title, print: await printOf(this.folio, question) }
    const picture = await this.picture(question)
    if (!picture) return { listed, files: [] }
    const name = questionFileNames(this.folio.questions).get(id)!
    const tag = this.host ? `.${(await shaOf(picture)).slice(0, TAG)}` : ''
    const path = `questions/${name}.asked${tag}.webp`
    return { listed: { ...listed, picture: this.place(path, picture) }, files: [{ path, data: picture, store: true }] }
  }

  /** The frame in which it begins, without ink. */
  private async picture(question: Question): Promise<Blob | null> {
    const { pages, questions } = this.folio
    const frame = frameOf(question, pages, questions)
    return frame && pictureOfMoment(this.folio, frame, { t: 0, strokes: [], things: [] }, POSTER_WIDTH, 'image/webp')
  }
}
