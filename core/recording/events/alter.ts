import { transformedBox, type Matrix } from '../../geometry'
import { MOMENTARY, NO_INK, NO_OBJECTS, type EventKind, type Reflow } from './kind'
import type { AlterEvent } from './alter.schema'

const matrixOf = (event: AlterEvent) => event.matrix as unknown as Matrix | undefined

export const alter: EventKind<AlterEvent, 'content'> = {
  ...NO_INK,
  ...NO_OBJECTS,
  ...MOMENTARY,
  brings: () => [],
  lifetime: 'content',
  undoable: true,
  retroactive: true,
  survivesRemoval: false,
  replayed: true,
  inEditList: false,
  refs: event => event.targets,
  restrict(event, counts) {
    const targets = event.targets.filter(counts)
    return targets.length ? { ...event, targets } : null
  },
  mapIds: (event, ids) => ({ ...event, id: ids.brought(event.id), targets: event.targets.map(ids.referred) }),
  reflow: (event, by) => {
    const matrix = matrixOf(event)
    return matrix ? reflowTransform(event, matrix, by) : event
  },
  apply: (event, board) => {
    const matrix = matrixOf(event)
    board.transform(event, event.targets, {
      ...(matrix ? { matrix } : {}),
      ...(event.role ? { role: event.role } : {}),
    })
  },
}

/**
 * What was moved or grown, where it lies now: it is brought from where it lies now to where it lay, changed as it was,
 * and brought from there to where that lies now. What is changed together and lies on both sides of the room is changed
 * in as many events, of one operation.
 */
function reflowTransform(event: AlterEvent, matrix: Matrix, by: Reflow): AlterEvent[] {
  const groups = new Map<string, { matrix: number[]; targets: string[] }>()
  for (const target of event.targets) {
    const box = by.boxBefore(target, event.id)
    const [from, to] = box ? [by.offset(box), by.offset(transformedBox(box, matrix))] : [0, 0]
    const [a, b, c, d, e, f] = matrix
    const key = `${from},${to}`
    const group = groups.get(key) ?? { matrix: [a, b, c, d, e - c * from, f - d * from + to], targets: [] }
    group.targets.push(target)
    groups.set(key, group)
  }
  return [...groups.values()].map(group => ({ ...event, ...group }))
}
