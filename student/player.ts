import { clockTime } from '../core/publish/names'
import { cueText, holdsWords, placeAt, saidOfSearch, turnReached, type Place } from './follow'

/** The student page's own script. It reads what it needs from the page and never makes markup from text. */

/** What the student chose last, in her own browser; where nothing can be kept, nothing is. */
function remembered(name: string): string | null {
  try {
    return localStorage.getItem(`solutions-${name}`)
  } catch {
    return null
  }
}
function remember(name: string, value: string) {
  try {
    localStorage.setItem(`solutions-${name}`, value)
  } catch {
    /* A browser that keeps nothing. */
  }
}

const all = <E extends HTMLElement>(within: ParentNode, selector: string) => [...within.querySelectorAll<E>(selector)]
/** What the page is known to have. */
const one = <E extends HTMLElement>(within: ParentNode, selector: string) => within.querySelector<E>(selector)!
const placeOf = ({ dataset }: HTMLElement): Place => ({ from: Number(dataset.t), to: Number(dataset.to) })
const sections = all(document, 'section.question')
const videoOf = (section: HTMLElement) => one<HTMLVideoElement>(section, 'video')

/** Marks, among buttons, the one that holds the moment. @param ms of the video */
function mark(buttons: readonly HTMLElement[], ms: number) {
  const here = placeAt(buttons.map(placeOf), ms)
  buttons.forEach((button, i) => {
    if (i === here) button.setAttribute('aria-current', 'true')
    else button.removeAttribute('aria-current')
  })
}

/** Controls below the picture instead of over it, where they would cover what is written. */
function controls(section: HTMLElement, video: HTMLVideoElement) {
  const bar = one(section, '.bar')
  const play = one(bar, '.play'),
    at = one<HTMLInputElement>(bar, '.at'),
    time = one(bar, '.time')
  const toggle = () => {
    if (video.paused) void video.play()
    else video.pause()
  }
  bar.hidden = false
  video.controls = false
  play.addEventListener('click', toggle)
  video.addEventListener('click', toggle)
  video.addEventListener('play', () => {
    play.textContent = 'Pause'
  })
  video.addEventListener('pause', () => {
    play.textContent = 'Play'
  })
  video.addEventListener('timeupdate', () => {
    at.value = String(video.currentTime * 1000)
    time.textContent = `${clockTime(video.currentTime * 1000)} of ${clockTime(Number(at.max))}`
  })
  at.addEventListener('input', () => {
    video.currentTime = Number(at.value) / 1000
  })
  one(bar, '.wide').addEventListener('click', () => {
    video.controls = true
    if ('requestFullscreen' in video) void video.requestFullscreen()
  })
  document.addEventListener('fullscreenchange', () => {
    if (!document.fullscreenElement) video.controls = false
  })
}

/** Stops where the student is asked to try, and goes on when she says so. */
function turns(section: HTMLElement, video: HTMLVideoElement) {
  const cards = all(section, '.turn'),
    places = cards.map(placeOf)
  let before = 0
  cards.forEach((card, i) =>
    one(card, 'button').addEventListener('click', () => {
      card.hidden = true
      video.currentTime = places[i]!.to / 1000 + 0.001
      before = video.currentTime
      void video.play()
    }),
  )
  video.addEventListener('seeking', () => {
    before = video.currentTime
  })
  video.addEventListener('play', () =>
    cards.forEach(card => {
      card.hidden = true
    }),
  )
  video.addEventListener('timeupdate', () => {
    const reached = video.paused ? -1 : turnReached(places, before * 1000, video.currentTime * 1000)
    if (reached >= 0) {
      const card = cards[reached]!
      video.pause()
      video.currentTime = places[reached]!.from / 1000
      card.hidden = false
      one(card, 'button').focus()
    }
    before = video.currentTime
  })
}

/** What was said, as captions that the student may turn on. */
function captionTrack(video: HTMLVideoElement, said: readonly HTMLElement[]): TextTrack {
  const track = video.addTextTrack('captions', 'Captions', document.documentElement.lang)
  track.mode = 'hidden'
  for (const button of said) {
    const { from, to } = placeOf(button)
    track.addCue(new VTTCue(from / 1000, to / 1000, cueText(button.textContent ?? '')))
  }
  return track
}

/** Speed and captions, as she chose them last. */
function choices(section: HTMLElement, video: HTMLVideoElement, track: TextTrack) {
  const speed = one<HTMLSelectElement>(section, '.speed'),
    captions = one<HTMLInputElement>(section, '.captions')
  const take = () => {
    video.playbackRate = Number(speed.value)
    track.mode = captions.checked ? 'showing' : 'hidden'
  }
  speed.value = remembered('speed') ?? '1'
  // What was remembered may be no speed that there is.
  if (!speed.value) speed.value = '1'
  captions.checked = remembered('captions') === 'on'
  take()
  // Some browsers forget the speed with each file they begin.
  video.addEventListener('loadedmetadata', take)
  speed.addEventListener('change', () => {
    remember('speed', speed.value)
    take()
  })
  captions.addEventListener('change', () => {
    remember('captions', captions.checked ? 'on' : 'off')
    take()
  })
}

for (const section of sections) {
  const video = videoOf(section),
    steps = all(section, '.steps button'),
    said = all(section, '.said')
  controls(section, video)
  turns(section, video)
  choices(section, video, captionTrack(video, said))
  for (const button of [...steps, ...said]) {
    button.addEventListener('click', () => {
      video.currentTime = placeOf(button).from / 1000 + 0.001
      void video.play()
    })
  }
  video.addEventListener('timeupdate', () => {
    mark(steps, video.currentTime * 1000)
    mark(said, video.currentTime * 1000)
  })
  video.addEventListener('play', () => {
    for (const other of sections) if (other !== section) videoOf(other).pause()
  })
}

const find = one<HTMLInputElement>(document, '#find')
find.addEventListener('input', () => {
  const words = find.value,
    searched = words.trim() !== ''
  let hits = 0
  for (const section of sections) {
    const places = all(section, '.steps button, .said, h2').map(place => ({
      place,
      hit: holdsWords(place.textContent ?? '', words),
    }))
    for (const { place, hit } of places) place.classList.toggle('hit', hit)
    const here = places.filter(p => p.hit).length
    hits += here
    section.hidden = searched && !here
    if (searched && here) one<HTMLDetailsElement>(section, '.transcript').open = true
  }
  one(document, '#found').textContent = saidOfSearch(words, hits)
})
