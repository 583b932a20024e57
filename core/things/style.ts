export { letterColour } from '../ink/roles'

/**
 * Lines of the method and printed signs of guides and figures, and light lines of scaffolds; their counterparts on dark
 * paper are in `ON_DARK`.
 */
export const GRAPHITE = '#4a4842'
export const RULE = '#b4cbe0'
/** Colours that several ways over one figure can have; told apart by dashes, too. */
export const WAYS = ['#1d6f5c', '#8a4b12', '#6b3fa0', '#1d3f8f'] as const
