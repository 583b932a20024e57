import type { Box } from '../core/folio/model'
import type { GuideSpec, Notation, TextMark } from '../core/folio/thing'
import type { PenRole } from '../core/ink/roles'

/**
 * Something the hand does: text at a baseline, or a bare line. Offsets in points from the corner of the question's
 * region.
 */
export type Move =
  | { text: string; x: number; y: number; role?: PenRole; size?: number }
  | { path: number[]; role?: PenRole }
  /** A layout guide with its corner at x, y; then moves of its method. */
  | { guide: GuideSpec; x: number; y: number; cell: number }
  | { next: number }
  /** A typed line; with `equals`, x is where its first sign of relation stands. */
  | { line: string; x: number; y: number; notation?: Notation; size?: number; role?: PenRole; equals?: boolean }
  | { option: string; state: 'out' | 'stays' | 'answer'; reason?: string }
  | { look: Box | null }
  /** The student is to try, for about so many seconds; the video holds still for `hold` of them. */
  | { turn: number; hold: number }
  | { words: TextMark; boxes: Box[]; role?: PenRole }

/** A sentence, and what is written while it is said. */
export interface Beat {
  say: string
  write?: Move[]
}
export interface LessonStep {
  title: string
  struck?: boolean
  beats: Beat[]
}
/** A recorded question of the sample folio; `place` is its index on the worksheet. */
export interface Lesson {
  name: string
  place: number
  steps: LessonStep[]
}

const underline = (x0: number, x1: number, y: number, role: PenRole = 'working'): Move => ({
  path: [x0, y, (x0 + x1) / 2, y + 0.8, x1, y],
  role,
})

export const LESSONS: Lesson[] = [
  {
    name: 'still-to-climb',
    place: 0,
    steps: [
      {
        title: 'What is asked',
        beats: [
          {
            say: 'Question one. The balloon bursts at thirty thousand two hundred and four metres.',
            write: [{ path: [192, 16, 212, 16.5, 235, 16], role: 'given' }],
          },
          {
            say: 'Now it is at eighteen thousand six hundred and fifty seven. How far is it still to climb? That is a difference, so we subtract.',
            write: [{ path: [38, 31, 60, 31.5, 81, 31], role: 'given' }, underline(88, 264, 38)],
          },
        ],
      },
      {
        title: '30 204 − 18 657, lined up',
        beats: [
          {
            say: 'Write the larger number on top, one digit in each column.',
            write: [
              {
                guide: { guide: 'columns', operation: 'subtract', numbers: ['30204', '18657'] },
                x: 60,
                y: 62,
                cell: 26,
              },
            ],
          },
          { say: 'Below it the smaller one, ones under ones.' },
        ],
      },
      {
        title: 'Regroup across the zeros',
        beats: [
          {
            say: 'Four take away seven does not go. The tens are empty, so we go to the hundreds.',
            write: [{ next: 1 }],
          },
          {
            say: 'One hundred becomes ten tens, and one of those makes fourteen ones. Fourteen minus seven is seven, nine minus five is four.',
            write: [{ next: 2 }],
          },
        ],
      },
      {
        title: 'Two thousands left',
        struck: true,
        beats: [
          {
            say: 'And from the thousands I take one, so that leaves, um, two.',
            write: [{ text: '2', x: 122, y: 98, role: 'carry', size: 8 }],
          },
          { say: 'Oh sorry, that is wrong. There are no thousands there.' },
        ],
      },
      {
        title: 'Thirty thousand gives ten thousands',
        beats: [
          {
            say: 'One take away six does not go either. The three gives ten thousands, and one of them makes eleven hundreds.',
            write: [{ next: 1 }],
          },
        ],
      },
      {
        title: 'Subtract column by column',
        beats: [
          { say: 'Eleven minus six is five. Nine minus eight is one, and two minus one is one.', write: [{ next: 3 }] },
        ],
      },
      {
        title: 'The balloon climbs 11 547 m more',
        beats: [
          {
            say: 'So it climbs eleven thousand five hundred and forty seven metres more.',
            write: [
              { text: '11 547 m', x: 270, y: 150, role: 'answer', size: 12 },
              { path: [262, 158, 310, 159, 368, 158], role: 'answer' },
            ],
          },
          {
            say: 'Check it by adding: eighteen thousand plus eleven and a half thousand is about thirty thousand. It holds.',
            write: [{ text: '19000 + 11500 ≈ 30500', x: 252, y: 184, role: 'aside', size: 8.5 }],
          },
        ],
      },
    ],
  },
  {
    name: 'half-the-pressure',
    place: 2,
    steps: [
      {
        title: 'Half of 1013 hPa is about 507 hPa',
        beats: [
          {
            say: 'Question three. Half of one thousand and thirteen is about five hundred and seven hectopascals.',
            write: [
              { path: [26, 32, 64, 32.5, 102, 32], role: 'given' },
              { text: '1013 ÷ 2 ≈ 507 hPa', x: 40, y: 116, size: 10 },
            ],
          },
        ],
      },
      {
        title: 'Not A: at 1 km it is still 899 hPa',
        beats: [
          {
            say: 'At one kilometre the table says eight hundred and ninety nine. That is far too much, so A is out.',
            write: [{ option: 'A', state: 'out', reason: '899 hPa' }],
          },
        ],
      },
      {
        title: 'Not C and not D: too thin',
        beats: [
          {
            say: 'At eleven kilometres there are only two hundred and twenty six left. So C is out, and D, higher still, is out as well.',
            write: [
              { option: 'C', state: 'out', reason: '226 hPa' },
              { option: 'D', state: 'out', reason: 'higher still' },
            ],
          },
        ],
      },
      {
        title: 'B: 540 hPa at 5 km, so 5.5 km',
        beats: [
          {
            say: 'At five kilometres it is five hundred and forty, a little too much. So a little higher, five and a half, and that is B.',
            write: [
              { text: '5 km: 540 hPa', x: 200, y: 142, size: 10 },
              { option: 'B', state: 'answer' },
              { text: 'B', x: 240, y: 176, role: 'answer', size: 16 },
            ],
          },
        ],
      },
    ],
  },
  {
    name: 'bottles-of-helium',
    place: 3,
    steps: [
      {
        title: '4x − 18 = 2x + 30',
        beats: [
          {
            say: 'Question four. We copy the equation, and keep the equals signs under one another.',
            write: [{ line: '4x - 18 = 2x + 30', x: 150, y: 110, equals: true }],
          },
        ],
      },
      {
        title: 'Take 2x from both sides: 2x − 18 = 30',
        beats: [
          {
            say: 'There is x on both sides. Take two x away from both.',
            write: [{ text: '| −2x', x: 280, y: 106, role: 'aside', size: 10 }],
          },
          { say: 'Two x minus eighteen is thirty.', write: [{ line: '2x - 18 = 30', x: 150, y: 137, equals: true }] },
        ],
      },
      {
        title: 'Add 18: 2x = 48',
        beats: [
          {
            say: 'Add eighteen on both sides, and two x is forty eight.',
            write: [
              { text: '| +18', x: 280, y: 134, role: 'aside', size: 10 },
              { line: '2x = 48', x: 150, y: 164, equals: true },
            ],
          },
        ],
      },
      {
        title: 'Halve: x = 24 litres',
        beats: [
          {
            say: 'Half of that: x is twenty four. One bottle holds twenty four litres.',
            write: [
              { text: '| ÷2', x: 280, y: 162, role: 'aside', size: 10 },
              { line: '@4(x = 24) "  litres"', x: 150, y: 194, equals: true },
            ],
          },
          {
            say: 'And check: four times twenty four minus eighteen is seventy eight, and forty eight plus thirty is seventy eight, too.',
            write: [{ line: '4 * 24 - 18 = 78 = 2 * 24 + 30', x: 262, y: 220, size: 9, role: 'aside' }],
          },
        ],
      },
    ],
  },
  {
    name: 'height-after-46-minutes',
    place: 1,
    steps: [
      {
        title: '318 × 46 in an area grid',
        beats: [
          {
            say: 'Question two. Every minute three hundred and eighteen metres, forty six times. We split both numbers into their places.',
            write: [
              { words: 'underline', boxes: [{ x: 111, y: 11, w: 30, h: 12 }], role: 'answer' },
              { guide: { guide: 'area', a: '318', b: '46' }, x: 30, y: 76, cell: 13 },
              { turn: 60, hold: 5 },
            ],
          },
        ],
      },
      {
        title: 'Six parts',
        beats: [
          { say: 'Forty times three hundred, times ten, times eight. And the same with six.', write: [{ next: 6 }] },
        ],
      },
      {
        title: 'Altogether 14 628 m',
        beats: [
          {
            say: 'Add the rows, then both sums. The balloon is fourteen thousand six hundred and twenty eight metres high.',
            write: [{ next: 3 }, { text: '14 628 m', x: 290, y: 196, role: 'answer', size: 12 }],
          },
        ],
      },
    ],
  },
  {
    name: 'lift-and-weight',
    place: 4,
    steps: [
      {
        title: 'The resultant force is 6.34 N',
        beats: [
          {
            say: 'Question five. The weight is one point eight times nine point eight one, and the lift is larger by six point three four newtons.',
            write: [{ line: '24.0 - 1.80 * 9.81 = 6.34 "  N"', x: 30, y: 84, size: 12 }],
          },
        ],
      },
      {
        title: '6.34 ÷ 1.8, by long division',
        beats: [
          {
            say: 'Now force divided by mass. We multiply both by ten, so that the divisor is whole.',
            write: [
              { guide: { guide: 'division', dividend: '6.34', divisor: '1.8', places: 1 }, x: 24, y: 98, cell: 15 },
            ],
          },
          {
            say: 'Eighteen goes three times, nine is left. Bring down, and so on.',
            write: [{ look: { x: 4, y: 76, w: 280, h: 157.5 } }, { next: 11 }, { look: null }],
          },
        ],
      },
      {
        title: 'a = 3.52 m/s²',
        beats: [
          {
            say: 'So the balloon starts with three point five two metres per second squared.',
            write: [{ line: 'a = 3.52 "  m/s"^2', x: 200, y: 196, size: 14, role: 'answer' }],
          },
        ],
      },
    ],
  },
]
