import type { GuideSpec } from '../folio/thing'
import { BARS, fractionStrips } from './bars'
import { additionColumns, multiplicationColumns, subtractionColumns } from './columns'
import { longDivision } from './division'
import { areaGrid, balance, eliminationGrid, factorColumns, tableOfValues } from './grids'
import type { GuideLayout } from './model'
import { coordinateAxes, numberLine } from './scales'

export * from './model'
export { placeParts } from './grids'

const cache = new Map<string, GuideLayout>()

/**
 * A layout guide laid out: its scaffold, its numbers and all the moves of its method.
 * @throws Trouble for numbers that the method cannot be worked with (`number-unclear`, `divided-by-zero`,
 * `scale-unclear`, …)
 */
export function layGuide(spec: GuideSpec): GuideLayout {
  const key = JSON.stringify(spec)
  let layout = cache.get(key)
  if (!layout) {
    layout = lay(spec)
    if (cache.size > 200) cache.clear()
    cache.set(key, layout)
  }
  return layout
}

function lay(spec: GuideSpec): GuideLayout {
  switch (spec.guide) {
    case 'columns':
      return { add: additionColumns, subtract: subtractionColumns, multiply: multiplicationColumns }[spec.operation](
        spec.numbers,
      )
    case 'division':
      return longDivision(spec.dividend, spec.divisor, spec.places)
    case 'area':
      return areaGrid(spec.a, spec.b)
    case 'bar':
      return BARS[spec.bar](spec.numbers)
    case 'numberLine':
      return numberLine(spec)
    case 'strips':
      return fractionStrips(spec.fractions)
    case 'factors':
      return factorColumns(spec.numbers)
    case 'values':
      return tableOfValues(spec.rule, spec.xs)
    case 'axes':
      return coordinateAxes(spec)
    case 'elimination':
      return eliminationGrid(spec.rows, spec.columns)
    case 'balance':
      return balance(spec.left, spec.right)
  }
}
export * from './write'
export * from './read'
