import { describe, expect, it } from 'vitest'
import { parseFragment, serialize, type DefaultTreeAdapterMap } from 'parse5'
import { attributes, html, trusted } from '../../core/publish/html'

type Element = DefaultTreeAdapterMap['element']
/** As a browser reads it (parse5 follows the HTML standard's parsing). */
const read = (markup: string) => parseFragment(markup).childNodes as Element[]
const HOSTILE = [
  '<script>x</script>',
  '"><img onerror=x>',
  "' onload='x",
  '&lt;b&gt;',
  '</textarea>',
  '`${x}`',
  '\u0000<!--',
]

describe('markup from a template', () => {
  it.each(HOSTILE)('takes %s for text, in content and in attributes', text => {
    const [link] = read(html`<a title="${text}">${text}</a>`.markup)
    expect(link!.tagName).toBe('a')
    expect(link!.attrs).toEqual([{ name: 'title', value: text.replace('\u0000', ' ') }])
    expect(link!.childNodes).toHaveLength(1)
    expect(link!.childNodes[0]).toMatchObject({ nodeName: '#text', value: text.replace('\u0000', ' ') })
  })
  it('puts markup into markup as it is, lists joined, and nothing for what is not there', () => {
    const items = ['a', '<b>'].map(t => html`<li>${t}</li>`)
    const { markup } = html`<ul>
      ${items}${null}${undefined}${false}${0}
    </ul>`
    expect(markup.replace(/\s/g, '')).toBe('<ul><li>a</li><li>&lt;b&gt;</li>0</ul>')
    expect(html`${trusted('<i>x</i>')}`.markup).toBe('<i>x</i>')
  })
  it('leaves attributes out that are not there', () => {
    const of = attributes({ 'data-a': 'x"y', 'data-b': undefined, 'hidden': true, 'data-c': false, 'data-n': 0 })
    const [div] = read(`<div${of.markup}></div>`)
    expect(div!.attrs).toEqual([
      { name: 'data-a', value: 'x"y' },
      { name: 'hidden', value: '' },
      { name: 'data-n', value: '0' },
    ])
    expect(serialize(div!)).toBe('')
  })
})
