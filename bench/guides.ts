import { GUIDE_KINDS } from '../core/guides'
import { seededRandom } from '../core/ink'
import { faultsOf } from '../tests/support/guides/general'
import { MAKERS } from '../tests/support/guides/makers'

/**
 * Generated inputs of every guide, worked out anew by other arithmetic than the product's own.
 * @param count of each guide @param seed of the inputs
 * @returns how many of all had a fault; each kind is told as it is done
 */
export function guidesTried(count: number, seed: number, tell: (line: string) => void): number {
  let wrong = 0
  for (const { id, label } of GUIDE_KINDS) {
    const random = seededRandom(seed)
    const faulty: string[] = []
    for (let i = 0; i < count; i++) {
      const sample = MAKERS[id](random)
      let faults: string[]
      try {
        faults = faultsOf(id, sample)
      } catch (error) {
        faults = [`${id} ${sample.text}: ${(error as Error).message}`]
      }
      if (faults.length) faulty.push(faults[0]!)
    }
    wrong += faulty.length
    tell(
      `        ${label.padEnd(26)} ${String(faulty.length).padStart(5)} of ${count}${faulty.length ? `, such as ${faulty[0]}` : ''}`,
    )
  }
  return wrong
}
