export { isLatex, readLine, type Piece, type ReadLine } from './read'
export { breakBefore, lastTerm } from './edit'
