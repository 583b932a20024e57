import { serveJobs } from './job'
import { createFile } from './opfs'
import { canMake } from './render/codecs'
import { CONTAINERS, LessonSoundJob, RenderJob } from './render/job'
import { lessonSound } from './render/lessonSound'
import { renderVideo } from './render/video'

/** Makes videos away from the interface. */
serveJobs(self, {
  async containers() {
    const able = await Promise.all(CONTAINERS.map(canMake))
    return CONTAINERS.filter((_, i) => able[i])
  },
  lessonSound: (value, { signal }) => lessonSound(LessonSoundJob.parse(value), signal),
  async render(value, { progress, signal }) {
    const job = RenderJob.parse(value)
    const file = await createFile(job.file)
    try {
      const result = await renderVideo(job, file, progress, signal)
      file.close()
      return result
    } catch (error) {
      await file.discard()
      throw error
    }
  },
})
