import { attributes, html, type Html } from './html'
import { clockTime } from './names'
import type { PublishedQuestion } from './page'
import { writtenLine } from './written'

/** The steps, those of one part together. */
export function stepList(q: PublishedQuestion): Html[] {
  const groups: { part: string; items: Html[] }[] = []
  q.chapters.forEach((c, i) => {
    const part = c.part ?? ''
    if (groups[groups.length - 1]?.part !== part) groups.push({ part, items: [] })
    const data = attributes({
      'data-t': Math.round(c.t),
      'data-to': Math.round(q.chapters[i + 1]?.t ?? q.duration),
      'data-also': c.also,
    })
    groups[groups.length - 1]!.items.push(
      html`<li>
        <button type="button" ${data}>
          <span class="n">${i + 1}</span><span class="name">${c.title}</span
          ><span class="later" aria-hidden="true">· · ·</span><span class="t">${clockTime(c.t)}</span>
        </button>
      </li>`,
    )
  })
  return groups.map(
    g =>
      html`${g.part && html`<h4>Part ${g.part}</h4>`}
        <ol>
          ${g.items}
        </ol>`,
  )
}

/** What is said, by steps, and what is typed and placed in each: all of it for who cannot see or hear it. */
export function transcript(q: PublishedQuestion): Html {
  const stepOf = (t: number) =>
    Math.max(
      0,
      q.chapters.findLastIndex(c => c.t <= t + 1),
    )
  const said = q.captions.map(c => ({
    step: stepOf(c.from),
    sentence: html`<button type="button" class="said" data-t="${Math.round(c.from)}" data-to="${Math.round(c.to)}">
      ${c.text.replace(/\n/g, ' ')}
    </button> `,
  }))
  const words = (i: number) => said.filter(s => s.step === i).map(s => s.sentence)
  if (!q.chapters.length) return html`<p>${words(0)}</p>`
  return html`${q.chapters.map(
    (c, i) =>
      html`<section class="told-step" data-t="${Math.round(c.t)}">
        <h3>${clockTime(c.t)} ${c.title}</h3>
        <p>${words(i)}</p>
        ${(c.written ?? []).map(writtenLine)}
      </section>`,
  )}`
}
