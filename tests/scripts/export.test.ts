import { describe, expect, it } from 'vitest'
import { exportArguments } from '../../scripts/exportArguments'

describe('what is asked for on the command line', () => {
  it('is everything, where nothing else is said', () => {
    expect(exportArguments(['a.folio', 'b.folio', '--out', 'dir'])).toEqual({
      files: ['a.folio', 'b.folio'],
      demo: false,
      options: {
        out: 'dir',
        container: 'mp4',
        mode: 'on-change',
        width: 1280,
        page: true,
        captions: true,
        feed: true,
        handout: 'whole',
        ink: 'all',
        colour: 'colour',
        cartridge: true,
      },
    })
  })
  it('leaves out what is not wanted; a flag without a word asks for what it names', () => {
    const { options } = exportArguments([
      'a.folio',
      '--out=d',
      '--videos=none',
      '--handout=none',
      '--cartridge=no',
      '--page=no',
      '--captions=no',
      '--link=https://a.example/b/index.html',
    ])
    expect(options).toEqual({
      out: 'd',
      mode: 'on-change',
      width: 1280,
      page: false,
      captions: false,
      feed: true,
      link: 'https://a.example/b/',
      ink: 'all',
      colour: 'colour',
      cartridge: false,
    })
    expect(exportArguments(['a.folio', '--feed', '--handout', '--out', 'd', '--captions'])).toEqual(
      exportArguments(['a.folio', '--out', 'd']),
    )
    expect(exportArguments(['--demo', '--out', 'd', '--container', 'webm']).options.container).toBe('webm')
  })
  it.each([
    [['a.folio'], '--out DIR'],
    [['--out', 'd'], 'which folio files'],
    [['a.folio', '--out', 'd', '--videos', 'avi'], '“avi”'],
    [['a.folio', '--out', 'd', '--width', '640'], '--width is one of 1280, 1920'],
    [['a.folio', '--out', 'd', '--link', 'a.example'], '“a.example”'],
    [['a.folio', '--out', 'd', '--feed', 'maybe'], '--feed is one of yes, no'],
    [['a.folio', '--out', 'd', '--colur', 'grey'], '--colur'],
  ])('%j is refused with a word', (argv, word) => expect(() => exportArguments(argv)).toThrow(word))
})
