import type { PenRole } from '../core/ink/roles'

/** Something the hand does: text at a baseline, or a bare line. Offsets in points from the corner of the question's region. */
export type Move =
  | { text: string, x: number, y: number, role?: PenRole, size?: number }
  | { path: number[], role?: PenRole }

/** A sentence, and what is written while it is said. */
export interface Beat { say: string, write?: Move[] }
export interface LessonStep { title: string, struck?: boolean, beats: Beat[] }
/** A recorded question of the sample folio; `place` is its index on the worksheet. */
export interface Lesson { name: string, place: number, steps: LessonStep[] }

/** Digits in place-value columns, from the right. */
function column(digits: string, right: number, y: number, role: PenRole = 'working', size = 11): Move[] {
  return [...digits].map((d, i): Move => ({ text: d, x: right - (digits.length - 1 - i) * 22, y, role, size })).filter(m => 'text' in m && m.text !== ' ')
}
const underline = (x0: number, x1: number, y: number, role: PenRole = 'working'): Move => ({ path: [x0, y, (x0 + x1) / 2, y + 0.8, x1, y], role })
const slash = (x: number, y: number): Move => ({ path: [x - 2, y + 2, x + 11, y - 13], role: 'carry' })

export const LESSONS: Lesson[] = [
  {
    name: 'still-to-climb', place: 0,
    steps: [
      { title: 'What is asked', beats: [
        { say: 'Question one. The balloon bursts at thirty thousand two hundred and four metres.', write: [{ path: [186, 16, 204, 16.5, 224, 16], role: 'given' }] },
        { say: 'Now it is at eighteen thousand six hundred and fifty seven. How far is it still to climb? That is a difference, so we subtract.', write: [{ path: [43, 31, 64, 31.5, 80, 31], role: 'given' }, underline(91, 250, 38)] },
      ] },
      { title: '30 204 − 18 657, lined up', beats: [
        { say: 'Write the larger number on top, one digit in each column.', write: column('30204', 210, 118) },
        { say: 'Below it the smaller one, ones under ones.', write: [...column('18657', 210, 142), { text: '−', x: 98, y: 142, size: 11 }, underline(96, 228, 149)] },
      ] },
      { title: 'Regroup across the zeros', beats: [
        { say: 'Four take away seven does not go. The tens are empty, so we go to the hundreds.', write: [slash(168, 118), { text: '1', x: 168, y: 98, role: 'carry', size: 8 }] },
        { say: 'One hundred becomes ten tens, and one of those makes fourteen ones.', write: [slash(190, 118), { text: '9', x: 190, y: 98, role: 'carry', size: 8 }, { text: '14', x: 209, y: 98, role: 'carry', size: 8 }] },
      ] },
      { title: 'Two thousands left', struck: true, beats: [
        { say: 'And from the thousands I take one, so that leaves, um, two.', write: [{ text: '2', x: 146, y: 98, role: 'carry', size: 8 }] },
        { say: 'Oh sorry, that is wrong. There are no thousands there.' },
      ] },
      { title: 'Thirty thousand gives ten thousands', beats: [
        { say: 'One take away six does not go either. The three gives ten thousands, and one of them makes eleven hundreds.', write: [slash(124, 118), { text: '2', x: 124, y: 98, role: 'carry', size: 8 }, slash(146, 118), { text: '9', x: 146, y: 98, role: 'carry', size: 8 }, { text: '11', x: 165, y: 84, role: 'carry', size: 8 }] },
      ] },
      { title: 'Subtract column by column', beats: [
        { say: 'Fourteen minus seven is seven. Nine minus five is four.', write: [...column('7', 210, 170), ...column('4', 188, 170)] },
        { say: 'Eleven minus six is five. Nine minus eight is one, and two minus one is one.', write: [...column('5', 166, 170), ...column('1', 144, 170), ...column('1', 122, 170)] },
      ] },
      { title: 'The balloon climbs 11 547 m more', beats: [
        { say: 'So it climbs eleven thousand five hundred and forty seven metres more.', write: [{ text: '11 547 m', x: 270, y: 170, role: 'answer', size: 12 }, { path: [262, 178, 310, 179, 368, 178], role: 'answer' }] },
        { say: 'Check it by adding: eighteen thousand plus eleven and a half thousand is about thirty thousand. It holds.', write: [{ text: '19000 + 11500 ≈ 30500', x: 252, y: 204, role: 'aside', size: 8.5 }] },
      ] },
    ],
  },
  {
    name: 'half-the-pressure', place: 2,
    steps: [
      { title: 'Half of 1013 hPa is about 507 hPa', beats: [
        { say: 'Question three. Half of one thousand and thirteen is about five hundred and seven hectopascals.', write: [{ path: [26, 32, 60, 32.5, 96, 32], role: 'given' }, { text: '1013 ÷ 2 ≈ 507 hPa', x: 40, y: 116, size: 10 }] },
      ] },
      { title: 'Not A: at 1 km it is still 899 hPa', beats: [
        { say: 'At one kilometre the table says eight hundred and ninety nine. That is far too much, so A is out.', write: [{ path: [38, 66, 84, 60], role: 'working' }, { text: 'A  899 hPa', x: 40, y: 142, role: 'aside', size: 9 }] },
      ] },
      { title: 'Not C and not D: too thin', beats: [
        { say: 'At eleven kilometres there are only two hundred and twenty six left. So C is out, and D, higher still, is out as well.', write: [{ path: [222, 66, 272, 60], role: 'working' }, { text: 'C  226 hPa', x: 40, y: 164, role: 'aside', size: 9 }, { path: [314, 66, 362, 60], role: 'working' }] },
      ] },
      { title: 'B: 540 hPa at 5 km, so 5.5 km', beats: [
        { say: 'At five kilometres it is five hundred and forty, a little too much. So a little higher, five and a half, and that is B.', write: [{ text: '5 km: 540 hPa', x: 200, y: 142, size: 10 }, { path: [128, 64, 140, 52, 172, 50, 190, 60, 184, 72, 150, 75, 130, 70, 128, 62], role: 'answer' }, { text: 'B', x: 240, y: 176, role: 'answer', size: 16 }] },
      ] },
    ],
  },
  {
    name: 'bottles-of-helium', place: 3,
    steps: [
      { title: '4x − 18 = 2x + 30', beats: [
        { say: 'Question four. We copy the equation, and keep the equals signs under one another.', write: [{ text: '4x − 18 = 2x + 30', x: 60, y: 106, size: 11 }] },
      ] },
      { title: 'Take 2x from both sides: 2x − 18 = 30', beats: [
        { say: 'There is x on both sides. Take two x away from both.', write: [{ text: '| −2x', x: 280, y: 106, role: 'aside', size: 10 }] },
        { say: 'Two x minus eighteen is thirty.', write: [{ text: '2x − 18 = 30', x: 60, y: 134, size: 11 }] },
      ] },
      { title: 'Add 18: 2x = 48', beats: [
        { say: 'Add eighteen on both sides, and two x is forty eight.', write: [{ text: '| +18', x: 280, y: 134, role: 'aside', size: 10 }, { text: '2x = 48', x: 104, y: 162, size: 11 }] },
      ] },
      { title: 'Halve: x = 24 litres', beats: [
        { say: 'Half of that: x is twenty four. One bottle holds twenty four litres.', write: [{ text: '| ÷2', x: 280, y: 162, role: 'aside', size: 10 }, { text: 'x = 24 litres', x: 116, y: 192, role: 'answer', size: 12 }] },
        { say: 'And check: four times twenty four minus eighteen is seventy eight, and forty eight plus thirty is seventy eight, too.', write: [{ text: '78 = 78 ✓', x: 290, y: 192, role: 'aside', size: 10 }] },
      ] },
    ],
  },
]
