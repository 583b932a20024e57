import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { packagesOf } from '../../scripts/licences.mjs'

/** What ships, and under which terms; read off the build. */
const shipped = [...packagesOf(['client', 'workers']), ...packagesOf(['server'])]
const notice = ['public', 'server']
  .map(part => readFileSync(join(import.meta.dirname, `../../.output/${part}/licences.txt`), 'utf8'))
  .join('\n')

describe('the notice of what ships', () => {
  it('names every package of the build, and what is copied beside it, with its licence', () => {
    expect(shipped.length).toBeGreaterThan(50)
    for (const name of [
      '@vue/runtime-core',
      'zod',
      'mediabunny',
      '@mediabunny/aac-encoder',
      'pdfjs-dist',
      'tesseract.js-core',
      '@fontsource/stix-two-text',
      '@techstark/opencv-js',
      'h3',
    ])
      expect(
        shipped.map(p => p.name),
        name,
      ).toContain(name)
    for (const { name, version, licence } of shipped) {
      expect(notice).toContain(`${name} ${version}: ${licence}`)
      expect(licence, name).not.toBe('not named')
    }
  })
  it('names what stands beside the server as it was published, with a text or what its metadata says', () => {
    const beside = readdirSync(join(import.meta.dirname, '../../.output/server/node_modules')).filter(f =>
      /^[a-z]/.test(f),
    )
    expect(beside.length).toBeGreaterThan(5)
    for (const name of beside) expect(shipped.map(p => p.name)).toContain(name)
    for (const { name, texts } of shipped) expect(texts.join('').length, name).toBeGreaterThan(40)
  })
  it('has nothing under GPL or AGPL in it', () => {
    const free = /(^|[^L])A?GPL/
    expect(
      ['GPL-3.0', 'AGPL-3.0-only', '(MIT AND GPL-2.0)'].every(l => free.test(l)) && !free.test('LGPL-2.1-or-later'),
    ).toBe(true)
    expect(shipped.filter(p => free.test(p.licence)).map(p => p.name)).toEqual([])
  })
  it('says how the terms of the encoder’s LGPL are kept, with their text', () => {
    expect(notice).toContain('it can be exchanged')
    expect(notice).toContain('GNU LESSER GENERAL PUBLIC LICENSE\n                       Version 2.1, February 1999')
    expect(notice).toContain('SIL OPEN FONT LICENSE')
  })
})
