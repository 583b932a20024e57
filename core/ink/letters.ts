import { futural } from 'hersheytext/hersheytext.min.json'
import { handFont } from './hand'

/** The single-stroke letters of everything that is written by itself (Hershey's, public domain). */
export const LETTERS = handFont((futural as { chars: { d: string; o: number }[] }).chars)
