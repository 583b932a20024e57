import { parseArgs } from 'node:util'
import { pageAddress } from '../core/publish/feed'

export interface ExportOptions {
  out: string
  /** The folio's id on the shelf; the sample's when left out. */
  id?: string
  /** Kind of the videos; none are made without. */
  container?: 'mp4' | 'webm'
  mode?: 'on-change' | 'steady'
  width?: number
  /** Videos that are not made, by their words on the Publish screen; all are when left out. */
  without?: readonly string[]
  page?: boolean
  captions?: boolean
  feed?: boolean
  /** Where the page will stand. */
  link?: string
  handout?: 'whole' | 'each'
  ink?: 'all' | 'first' | 'none'
  colour?: 'colour' | 'grey'
  cartridge?: boolean
  log?: (line: string) => void
}

/** What a flag means that is given without a word. */
const BARE: Readonly<Record<string, string>> = {
  '--videos': 'mp4',
  '--page': 'yes',
  '--captions': 'yes',
  '--feed': 'yes',
  '--handout': 'whole',
  '--cartridge': 'yes',
}

/** What is asked for on the command line. @throws Error that says which word is not understood */
export function exportArguments(argv: readonly string[]): { files: string[]; demo: boolean; options: ExportOptions } {
  const text = { type: 'string' } as const
  const { values, positionals } = parseArgs({
    args: argv.map((arg, i) => (BARE[arg] && (argv[i + 1] ?? '--').startsWith('--') ? `${arg}=${BARE[arg]}` : arg)),
    allowPositionals: true,
    options: {
      ...{
        out: text,
        videos: text,
        container: text,
        pictures: text,
        width: text,
        page: text,
        handout: text,
        ink: text,
        colour: text,
      },
      ...{ cartridge: text, captions: text, feed: text, link: text, demo: { type: 'boolean' } },
    },
  })
  const one = <const V extends string>(
    name: string,
    given: string | undefined,
    allowed: readonly V[],
    otherwise: NoInfer<V>,
  ): V => {
    if (given === undefined) return otherwise
    const found = allowed.find(a => a === given)
    if (!found) throw new Error(`--${name} is one of ${allowed.join(', ')}, not “${given}”`)
    return found
  }
  if (!values.out) throw new Error('Say where the files should go: --out DIR')
  if (!values.demo && !positionals.length)
    throw new Error('Say which folio files: npm run export -- FILE.folio --out DIR')
  const videos = one('videos', values.videos ?? values.container, ['mp4', 'webm', 'none'], 'mp4')
  const link = values.link === undefined ? '' : pageAddress(values.link)
  if (link === null)
    throw new Error(`--link is the address of a page, such as https://a.example/b/, not “${values.link}”`)
  const yes = (name: 'page' | 'captions' | 'feed' | 'cartridge') =>
    one(name, values[name], ['yes', 'no'], 'yes') === 'yes'
  const handout = one('handout', values.handout, ['whole', 'each', 'none'], 'whole')
  return {
    files: positionals,
    demo: values.demo ?? false,
    options: {
      out: values.out,
      ...(videos === 'none' ? {} : { container: videos }),
      mode: one('pictures', values.pictures, ['on-change', 'steady'], 'on-change'),
      width: Number(one('width', values.width, ['1280', '1920'], '1280')),
      page: yes('page'),
      captions: yes('captions'),
      feed: yes('feed'),
      ...(link ? { link } : {}),
      ...(handout === 'none' ? {} : { handout }),
      ink: one('ink', values.ink, ['all', 'first', 'none'], 'all'),
      colour: one('colour', values.colour, ['colour', 'grey'], 'colour'),
      cartridge: yes('cartridge'),
    },
  }
}
