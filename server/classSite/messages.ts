import { randomBytes } from 'node:crypto'
import type { Storage } from 'unstorage'
import { StuckForm } from '../../core/publish/handIn'
import { Rates, type SiteLimits } from './limits'
import { Refusal } from './refusal'

/** A message of a student, as the class site keeps it: when it came, and the text that her page sent. */
export interface Message {
  id: string
  at: string
  text: string
}

/** Where students are stuck: messages under a publication, until the teacher puts them away. */
export class Messages {
  private readonly rates: Rates

  constructor(
    private readonly storage: Storage,
    private readonly limits: SiteLimits,
    private readonly now: () => number,
  ) {
    this.rates = new Rates(limits.messagesAMinute, now)
  }

  /**
   * Takes a message; what is no question about a moment is refused.
   * @param body reads it, and bounds it
   * @throws Refusal 400, 429, 507 (the inbox is full)
   */
  async take(id: string, body: () => Promise<string>): Promise<void> {
    const wait = this.rates.take(id)
    if (wait) throw new Refusal(429, 'Too many messages at once', { 'Retry-After': String(wait) })
    const text = await body()
    let read: unknown
    try {
      read = JSON.parse(text)
    } catch {
      throw new Refusal(400, 'This is no message')
    }
    if (!StuckForm.safeParse(read).success) throw new Refusal(400, 'This is no message')
    if ((await this.keys(id)).length >= this.limits.messages) throw new Refusal(507, 'The inbox is full')
    const at = new Date(this.now()).toISOString()
    const name = `${at.replace(/[:.]/g, '-')}-${randomBytes(4).toString('hex')}`
    // As text of its own: what the storage makes of numbers and lists is not asked for.
    await this.storage.setItem(`pub:${id}:m:${name}`, { at, text })
  }

  /** All of them, the oldest first. */
  async all(id: string): Promise<Message[]> {
    const out: Message[] = []
    for (const key of (await this.keys(id)).sort()) {
      const kept = (await this.storage.getItem(key)) as { at: string; text: string } | null
      if (kept) out.push({ id: key.split(':').pop()!, ...kept })
    }
    return out
  }

  async remove(id: string, message: string): Promise<void> {
    if (/^[\w-]{1,60}$/.test(message)) await this.storage.removeItem(`pub:${id}:m:${message}`)
  }

  private readonly keys = (id: string) => this.storage.getKeys(`pub:${id}:m`)
}
