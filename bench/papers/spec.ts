import { seeded, type Random } from './random'
import { fill, LANGUAGES, type Language } from './words'

export interface TruePart {
  label: string
  sign: string
  text: string
  marks: number | null
  depth: number
}
export interface TrueOption {
  label: string
  sign: string
  text: string
}
export interface TrueQuestion {
  label: string
  sign: string
  text: string
  marks: number | null
  ownMarks: number | null
  showTotal: number | null
  parts: TruePart[]
  options: TrueOption[]
}
export interface Section {
  heading: string
  note: string
  questions: TrueQuestion[]
}
export type Ticks = '' | 'box' | 'ring'

/** Everything that is decided about one paper before it is typeset; the truth beside it is `sections`. */
export interface Paper {
  seed: number
  language: Language
  title: string
  sections: Section[]
  numbers: string
  partsAcross: boolean
  partColumns: number
  optionsLayout: 'across' | 'down' | 'grid'
  ticks: Ticks
  markPlace: 'end' | 'right'
  markStyle: string
  columns: 1 | 2
  drill: number
  room: number
  header: string
  footer: string
  cover: string[]
  sheet: boolean
  key: boolean
  boldNumbers: boolean
  hanging: boolean
  font: string
  size: number
  lines: boolean
}

const NUMBERS = [
  '1.',
  '1)',
  '(1)',
  'Q1',
  'Q1.',
  'word',
  'word:',
  'bare',
  '1.2',
  'A.',
  'I.',
  'joint',
  '1.',
  '1.',
  '1)',
  'word',
] as const
const ROMAN = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X', 'XI', 'XII', 'XIII', 'XIV', 'XV', 'XVI']

function sign(style: string, n: number, major: number, word: string): { label: string; sign: string } {
  const letter = String.fromCharCode(64 + n)
  switch (style) {
    case '1.':
      return { label: `${n}`, sign: `${n}.` }
    case '1)':
      return { label: `${n}`, sign: `${n})` }
    case '(1)':
      return { label: `${n}`, sign: `(${n})` }
    case 'Q1':
      return { label: `${n}`, sign: `Q${n}` }
    case 'Q1.':
      return { label: `${n}`, sign: `Q${n}.` }
    case 'word':
      return { label: `${n}`, sign: `${word} ${n}` }
    case 'word:':
      return { label: `${n}`, sign: `${word} ${n}:` }
    case '1.2':
      return { label: `${major}.${n}`, sign: `${major}.${n}` }
    case 'A.':
      return { label: letter, sign: `${letter}.` }
    case 'I.':
      return { label: ROMAN[n - 1]!, sign: `${ROMAN[n - 1]}.` }
    default:
      return { label: `${n}`, sign: `${n}` }
  }
}

export function makePaper(seed: number): Paper {
  const r = seeded(seed * 7919 + 13)
  const language = r.pick(['en', 'en', 'en', 'en', 'en', 'de', 'es', 'fr'] as const)
  const words = LANGUAGES[language]
  const numbers = r.pick(NUMBERS)
  const markStyle = r.pick([
    '[n]',
    '[n]',
    '[n marks]',
    '(n marks)',
    '(n points)',
    '(n pts)',
    '/n',
    '(n)',
    'none',
    'each',
    'n marks',
  ])
  const partStyle =
    numbers === 'joint' ? 'a' : r.pick(['(a)', '(a)', 'a)', 'a.', '(i)', numbers === 'word' ? '1.' : '(a)'])
  const optionStyle = r.pick(['A', 'A.', 'A)', '(A)', 'a)', '(a)', 'A.', 'A', 'a.', 'tick'])
  const columns = numbers !== 'joint' && r.chance(0.28) ? 2 : 1
  const drill = columns === 1 && /^(1\.|1\)|\(1\)|Q1\.?)$/.test(numbers) && r.chance(0.12) ? r.int(2, 4) : 0
  const clash = (p: string, o: string) => p.replace(/[()i.]/g, '') === o.replace(/[().]/g, '') && /a/.test(o)
  const choice =
    !drill && !(numbers === 'A.' && /^A/.test(optionStyle)) && !clash(partStyle, optionStyle) && r.chance(0.6)
  const restart = r.chance(0.3) && !['1.2', 'A.', 'I.', 'joint'].includes(numbers)
  const sectionCount = numbers === '1.2' ? r.int(2, 4) : r.chance(0.45) ? r.int(2, 3) : 1
  const sections: Section[] = []
  let n = 0
  const word = r.pick(words.keyword)
  for (let s = 0; s < sectionCount; s++) {
    if (restart || numbers === '1.2') n = 0
    const count = drill ? r.int(6, 14) : r.int(3, sectionCount > 1 ? 6 : 14)
    const onlyChoice = choice && r.chance(0.4),
      each = markStyle === 'each' ? r.int(1, 4) : null
    const questions: TrueQuestion[] = []
    for (let k = 0; k < count; k++) {
      n++
      if (numbers === 'A.' && n > 20) break
      if (numbers === 'I.' && n > 16) break
      questions.push(
        makeQuestion(r, {
          ...sign(numbers, n, s + 1, word),
          words,
          numbers,
          markStyle,
          partStyle,
          optionStyle,
          each,
          kind: drill
            ? 'ask'
            : numbers === 'joint'
              ? 'parts'
              : onlyChoice
                ? 'choose'
                : r.pick(choice ? ['ask', 'choose', 'parts', 'ask'] : ['ask', 'parts', 'ask']),
          drill,
        }),
      )
    }
    const letter = numbers === 'A.' ? String(s + 1) : r.pick([String.fromCharCode(65 + s), String(s + 1)])
    const note = [each ? words.each.replace('#', String(each)) : '', r.chance(0.4) ? r.pick(words.instruct) : '']
      .filter(Boolean)
      .join(' ')
    sections.push({ heading: sectionCount > 1 ? `${words.section} ${letter}` : '', note, questions })
  }
  return {
    seed,
    language,
    title: fill(
      r.pick(['Balloon Day #', 'Review sheet #', 'Homework: heights and pressure', 'Unit # quiz', 'Practice paper #']),
      r,
    ),
    sections,
    numbers,
    partsAcross: r.chance(0.25),
    partColumns: r.int(2, 3),
    optionsLayout: r.pick(['across', 'down', 'grid', 'down']),
    ticks: optionStyle === 'tick' ? r.pick(['box', 'ring'] as const) : '',
    markPlace: markStyle === '(n)' || markStyle === 'n marks' ? 'right' : r.pick(['end', 'right']),
    markStyle,
    columns,
    drill,
    room: r.pick([0, 0, 20, 60, 120]),
    header: r.chance(0.5) ? fill('Balloon Day — science club #', r) : '',
    footer: r.pick(['', 'n', 'Page n', 'Page n of m', '- n -', 'n / m']),
    cover: r.chance(0.2) ? words.rules.map(x => fill(x, r)) : [],
    sheet: r.chance(0.12),
    key: r.chance(0.3),
    boldNumbers: numbers === 'bare' || r.chance(0.4),
    hanging: numbers === 'bare' || r.chance(0.7),
    font: r.pick(['serif', 'sans-serif']),
    size: r.pick([10, 11, 11, 12, 13]),
    lines: r.chance(0.25),
  }
}

interface Wish {
  label: string
  sign: string
  words: (typeof LANGUAGES)[Language]
  numbers: string
  markStyle: string
  partStyle: string
  optionStyle: string
  each: number | null
  kind: string
  drill: number
}

function makeQuestion(r: Random, w: Wish): TrueQuestion {
  const marked = w.markStyle !== 'none' && w.markStyle !== 'each'
  const worth = () => (marked && r.chance(0.95) ? r.int(1, 6) : null)
  const question: TrueQuestion = {
    label: w.label,
    sign: w.sign,
    text: '',
    marks: null,
    ownMarks: null,
    showTotal: null,
    parts: [],
    options: [],
  }
  if (w.kind === 'choose') {
    question.text = fill(r.pick(w.words.choose), r)
    const count = r.pick([4, 4, 4, 5, 3])
    for (let i = 0; i < count; i++) {
      const label = String.fromCharCode((/a/.test(w.optionStyle) ? 97 : 65) + i)
      question.options.push({
        label,
        sign: w.optionStyle === 'tick' ? '' : w.optionStyle.replace(/[Aa]/, label),
        text: fill(r.pick(w.words.option), r),
      })
    }
    question.ownMarks = worth()
  } else if (w.kind === 'parts') {
    question.text = w.numbers === 'joint' ? '' : fill(r.pick(w.words.stem), r)
    const count = r.int(2, 5),
      deep = !/i|1/.test(w.partStyle) && w.numbers !== 'joint' ? r.int(-2, count - 1) : -1
    for (let i = 0; i < count; i++) {
      const label = w.partStyle.includes('i')
        ? ROMAN[i]!.toLowerCase()
        : w.partStyle.includes('1')
          ? `${i + 1}`
          : String.fromCharCode(97 + i)
      const inner = i === deep
      question.parts.push({
        label,
        sign: w.partStyle.replace(/[ai1]/, label),
        text: fill(r.pick(inner ? w.words.stem.slice(0, 2) : w.words.part), r),
        marks: inner ? null : worth(),
        depth: 0,
      })
      if (inner)
        for (let k = 0; k < 2; k++)
          question.parts.push({
            label: `${label}(${ROMAN[k]!.toLowerCase()})`,
            sign: `(${ROMAN[k]!.toLowerCase()})`,
            text: fill(r.pick(w.words.part), r),
            marks: worth(),
            depth: 1,
          })
    }
    const sum = question.parts.reduce((s, p) => s + (p.marks ?? 0), 0)
    if (sum && marked && r.chance(0.25)) question.showTotal = sum
    question.marks = sum || null
    question.parts.forEach((p, i) => {
      if (p.depth === 0 && question.parts[i + 1]?.depth === 1)
        p.marks = (question.parts[i + 1]!.marks ?? 0) + (question.parts[i + 2]!.marks ?? 0) || null
    })
  } else {
    question.text = w.drill ? fill(r.pick(['# + #', '# × #', '#x = #', '# − #']), r) : fill(r.pick(w.words.ask), r)
    question.ownMarks = w.drill ? null : worth()
  }
  question.marks ??= question.ownMarks ?? w.each
  return question
}

/** Marks as this paper prints them. */
export function printMarks(paper: Paper, marks: number | null, total = false): string {
  if (marks === null) return ''
  const words = LANGUAGES[paper.language]
  const unit = marks === 1 ? words.mark[0]! : words.mark[1]!
  if (total) return paper.markStyle.startsWith('[') ? `[${words.total}: ${marks}]` : `(${words.total} ${marks} ${unit})`
  return paper.markStyle
    .replace('n marks', `${marks} ${unit}`)
    .replace('n points', `${marks} ${marks === 1 ? words.point[0] : words.point[1]}`)
    .replace('n pts', `${marks} ${words.short}`)
    .replace(/(^|[([/ ])n(?=[)\] ]|$)/, `$1${marks}`)
}
