import './module'
import cvModule from '@techstark/opencv-js'
import { whenReady, type Cv } from './clean'

/** Waits until the library is ready. @returns it, boxed */
export async function openCv(): Promise<{ cv: Cv }> {
  await new Promise<void>(ready => whenReady(cvModule, ready))
  return { cv: cvModule }
}
