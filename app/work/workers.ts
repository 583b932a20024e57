import { JobRunner } from '../../workers/job'

/** One runner for each kind of work, started when first needed. */
let sound: JobRunner | undefined
let files: JobRunner | undefined
let questions: JobRunner | undefined
let photo: JobRunner | undefined
let typesetting: JobRunner | undefined
let track: JobRunner | undefined

export const soundRunner = () =>
  (sound ??= new JobRunner(
    () => new Worker(new URL('../../workers/sound.worker.ts', import.meta.url), { type: 'module' }),
  ))
export const trackRunner = () =>
  (track ??= new JobRunner(
    () => new Worker(new URL('../../workers/track.worker.ts', import.meta.url), { type: 'module' }),
  ))
/** The picture library is large; it is loaded when the first photo is straightened. */
export const photoRunner = () =>
  (photo ??= new JobRunner(
    () => new Worker(new URL('../../workers/photo.worker.ts', import.meta.url), { type: 'module' }),
  ))
/** The typesetter is large; it is loaded when Solve is opened. */
export const typesetRunner = () =>
  (typesetting ??= new JobRunner(
    () => new Worker(new URL('../../workers/typeset.worker.ts', import.meta.url), { type: 'module' }),
  ))
export const questionsRunner = () =>
  (questions ??= new JobRunner(
    () => new Worker(new URL('../../workers/questions.worker.ts', import.meta.url), { type: 'module' }),
  ))
/** What comes from elsewhere is read in workers of its own, which can be ended at any time. */
export const newFilesRunner = () =>
  new JobRunner(() => new Worker(new URL('../../workers/files.worker.ts', import.meta.url), { type: 'module' }))
export const newListenRunner = () =>
  new JobRunner(() => new Worker(new URL('../../workers/listen.worker.ts', import.meta.url), { type: 'module' }))
export const newSoundRunner = () =>
  new JobRunner(() => new Worker(new URL('../../workers/sound.worker.ts', import.meta.url), { type: 'module' }))
export const filesRunner = () =>
  (files ??= new JobRunner(
    () => new Worker(new URL('../../workers/files.worker.ts', import.meta.url), { type: 'module' }),
  ))
/** Videos get a worker of their own each, closed afterwards, so that their memory goes back. */
export const newRenderRunner = () =>
  new JobRunner(() => new Worker(new URL('../../workers/render.worker.ts', import.meta.url), { type: 'module' }))
