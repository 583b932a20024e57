export { arcPath, arrowHead, boxPath, ellipsePath, pathBox, pathSteps, polyline, type PathStep } from '../geometry'

/**
 * The one way in which anything but ink is drawn: an SVG path (absolute M, L, Q, C and Z only) in local units, placed
 * on the page. Filled or
 * stroked; `width` and `dash` in page points.
 */
export interface Mark {
  d: string
  x?: number
  y?: number
  scale?: number
  fill?: string
  stroke?: string
  width?: number
  dash?: number[]
  alpha?: number
}
