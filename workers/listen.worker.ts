import { z } from 'zod'
import { SOUND_RATE } from '../core/sound/place'
import { stretched } from '../core/sound/stretch'
import { serveJobs } from './job'
import { OpenSounds, plannedSound } from './plannedSound'

const Plan = z.array(
  z.object({ at: z.number(), ms: z.number().nonnegative(), take: z.string(), from: z.number().nullable() }),
)
const Open = z.object({ sounds: z.record(z.string(), z.instanceof(Blob)) })
const Stretch = z.object({ plan: Plan, from: z.number(), to: z.number(), speed: z.number().positive() })

let sounds = new OpenSounds({})

/**
 * The sound of an edition as it is heard, a stretch at a time: `open` with the sounds of its takes, then `stretch` for
 * any lesson time of any plan. Samples come at 48 kHz, at the speed that was asked for.
 */
serveJobs(self, {
  async open(value) {
    sounds = new OpenSounds(Open.parse(value).sounds)
  },
  async stretch(value) {
    const { plan, from, to, speed } = Stretch.parse(value)
    const pcm = new Float32Array(Math.max(0, Math.round(((to - from) / 1000) * SOUND_RATE)))
    let at = 0
    for await (const block of plannedSound(plan, sounds, from, to)) {
      pcm.set(block.subarray(0, pcm.length - at), at)
      at += block.length
    }
    return stretched(pcm, speed)
  },
})
