import type { GuideSpec } from '../folio/thing'
import { BARS, fractionStrips } from './bars'
import { additionColumns, multiplicationColumns, subtractionColumns } from './columns'
import { longDivision } from './division'
import { areaGrid, balance, eliminationGrid, tableOfValues } from './grids'
import type { GuideLayout } from './model'
import { algebraGrid, isPlainArea } from './area'
import { coordinateAxes } from './axes'
import { equationLines } from './equation'
import { factorGuide } from './factors'
import { logicGrid } from './logic'
import { numberLine } from './numberLine'
import { placeValueColumns } from './placeValue'
import { ratioTable } from './ratio'
import { strips } from './strips'
import { unitBars } from './units'
import { valueTable } from './values'

export * from './model'
export { placeParts } from './grids'
export { choicesAt, linesOf, readMove, type EquationSpec } from './equation'

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
        spec.asTyped,
      )
    case 'division':
      return longDivision(spec)
    case 'area':
      return isPlainArea(spec) ? areaGrid(spec.a, spec.b) : algebraGrid(spec.a, spec.b)
    case 'bar':
      return BARS[spec.bar](spec.numbers)
    case 'numberLine':
      return numberLine(spec)
    case 'strips':
      return spec.sum === undefined ? fractionStrips(spec.fractions) : strips(spec)
    case 'factors':
      return factorGuide(spec)
    case 'values':
      return spec.asTyped ? valueTable(spec) : tableOfValues(spec.rule, spec.xs)
    case 'axes':
      return coordinateAxes(spec)
    case 'elimination':
      return eliminationGrid(spec.rows, spec.columns)
    case 'balance':
      return balance(spec.left, spec.right)
    case 'equation':
      return equationLines(spec)
    case 'units':
      return unitBars(spec)
    case 'ratio':
      return ratioTable(spec)
    case 'placeValue':
      return placeValueColumns(spec)
    case 'logic':
      return logicGrid(spec)
  }
}
export * from './write'
export * from './read'
