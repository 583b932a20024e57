import { randomBytes } from 'node:crypto'
import type { Storage } from 'unstorage'
import { z } from 'zod'
import type { SiteLimits } from './limits'
import { Refusal } from './refusal'

/** A class page: the lessons of one course of one teacher, under one address that stays. */
const Course = z.object({ name: z.string().max(300), author: z.string().max(300), createdAt: z.string() })
export type Course = z.infer<typeof Course>
/** What a class page is called, and by whom it is. */
export const CourseName = z.strictObject({
  name: z.string().trim().min(1).max(300),
  author: z.string().trim().max(300),
})

/**
 * Class pages and the publications on them. Each publication on a page is an item of its own, so that two servers that
 * put lessons on it at once lose none: `course:<id>:head`, `course:<id>:lesson:<publication>`.
 */
export class Courses {
  constructor(
    private readonly storage: Storage,
    private readonly limits: SiteLimits,
    private readonly now: () => number,
  ) {}

  /** What a class page is called, or null where there is none. */
  async get(id: string): Promise<Course | null> {
    if (!isId(id)) return null
    return Course.nullable().parse(await this.storage.getItem(`course:${id}:head`))
  }

  /** All class pages, the oldest first. */
  async all(): Promise<(Course & { id: string })[]> {
    const keys = (await this.storage.getKeys('course')).filter(k => k.endsWith(':head'))
    const out: (Course & { id: string })[] = []
    for (const id of keys.map(k => k.split(':')[1]!)) {
      const course = await this.get(id)
      if (course) out.push({ id, ...course })
    }
    return out.sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1))
  }

  /** The class page of this course and teacher, made where there is none yet. @throws Refusal 400, 507 */
  async open(value: unknown): Promise<string> {
    const { name, author } = this.named(value)
    const all = await this.all()
    const same = all.find(c => isSame(c.name, name) && isSame(c.author, author))
    if (same) return same.id
    if (all.length >= this.limits.courses) throw new Refusal(507, 'The class site has no room for another class page')
    const id = randomBytes(8).toString('hex')
    await this.storage.setItem(`course:${id}:head`, { name, author, createdAt: new Date(this.now()).toISOString() })
    return id
  }

  /** Another name for a class page; its address stays. @throws Refusal 400, 404 */
  async rename(id: string, value: unknown): Promise<void> {
    const course = await this.get(id)
    if (!course) throw new Refusal(404, 'No such class page')
    await this.storage.setItem(`course:${id}:head`, { ...course, ...this.named(value) })
  }

  private named(value: unknown) {
    const read = CourseName.safeParse(value)
    if (!read.success) throw new Refusal(400, 'A class page needs the name of its course')
    return read.data
  }

  /** Ids of the publications on a class page. */
  async lessons(id: string): Promise<string[]> {
    const keys = await this.storage.getKeys(`course:${id}:lesson`)
    return keys.map(k => k.split(':')[3]!)
  }
  /** @throws Refusal 404 */
  async add(id: string, publication: string): Promise<void> {
    if (!(await this.get(id))) throw new Refusal(404, 'No such class page')
    await this.storage.setItem(`course:${id}:lesson:${publication}`, { at: new Date(this.now()).toISOString() })
  }
  remove = (id: string, publication: string) => this.storage.removeItem(`course:${id}:lesson:${publication}`)
}

export const isId = (id: string) => /^[a-f0-9]{16}$/.test(id)
/** Whether two names are one, however they are spaced or written large. */
const isSame = (a: string, b: string) => plain(a) === plain(b)
const plain = (text: string) => text.normalize('NFKC').toLowerCase().replace(/\s+/g, ' ').trim()
