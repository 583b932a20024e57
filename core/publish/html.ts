import { escapeHtml } from './names'

/** Markup that stands in a page as it is; only {@link html} makes it, so that no text of hers is ever taken for it. */
export class Html {
  constructor(readonly markup: string) {}
}

export type HtmlValue = Html | string | number | null | undefined | false | readonly HtmlValue[]

/** A value as it stands in markup: text and numbers escaped, markup as it is, lists joined, nothing for what is not there. */
function markupOf(value: HtmlValue): string {
  if (value === null || value === undefined || value === false) return ''
  if (value instanceof Html) return value.markup
  if (Array.isArray(value)) return value.map(markupOf).join('')
  return escapeHtml(String(value))
}

/**
 * Markup from a template; what is put into it is escaped, in content and in quoted attributes alike.
 *
 *     html`<a title="${title}">${name}</a>`
 */
export const html = (parts: TemplateStringsArray, ...values: HtmlValue[]): Html =>
  new Html(parts.reduce((out, part, i) => out + markupOf(values[i - 1]) + part))

/** Attributes that may be left out, each with a space before it; `true` stands without a value. */
export const attributes = (of: Record<string, string | number | boolean | undefined>): Html =>
  new Html(
    Object.entries(of)
      .filter(([, value]) => value !== undefined && value !== false)
      .map(([name, value]) => (value === true ? ` ${name}` : ` ${name}="${escapeHtml(String(value))}"`))
      .join(''),
  )

/** Text that was made to stand in a page: the application's own script and style. */
export const trusted = (text: string): Html => new Html(text)
