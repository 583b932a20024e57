import { randomBytes } from 'node:crypto'
import type { Storage } from 'unstorage'
import { ExplanationForm, StuckForm } from '../../core/publish/handIn'
import { Rates, type SiteLimits } from './limits'
import { Refusal } from './refusal'

/** A message of a student, as the class site keeps it: when it came, and the text that her page sent. */
export interface Message {
  id: string
  at: string
  text: string
}

/** What explanations are told by in their names. */
const EXPLAINED = '-explained'

/** Where students are stuck, and what they explain themselves: messages under a publication, until the teacher puts them away. */
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
   * Takes a message; what is neither a question about a moment nor an explanation is refused.
   * @param body reads it, and bounds it
   * @throws Refusal 400, 413, 429, 507 (the inbox is full)
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
    const isExplained = ExplanationForm.safeParse(read).success
    if (!isExplained && !StuckForm.safeParse(read).success) throw new Refusal(400, 'This is no message')
    if (!isExplained && Buffer.byteLength(text) > this.limits.messageBytes)
      throw new Refusal(413, 'Too much for a message')
    const keys = await this.keys(id)
    const explained = keys.filter(k => k.endsWith(EXPLAINED)).length
    if (keys.length >= this.limits.messages || (isExplained && explained >= this.limits.explanations))
      throw new Refusal(507, 'The inbox is full')
    const at = new Date(this.now()).toISOString()
    const name = `${at.replace(/[:.]/g, '-')}-${randomBytes(4).toString('hex')}${isExplained ? EXPLAINED : ''}`
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
