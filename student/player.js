/* The student page's own script. It reads what it needs from the page and never makes markup from text. */
(function () {
  'use strict'

  /** What the student chose last, in her own browser; where nothing can be kept, nothing is. */
  function remembered(name) {
    try { return localStorage.getItem('solutions-' + name) } catch { return null }
  }
  function remember(name, value) {
    try { localStorage.setItem('solutions-' + name, value) } catch { /* a browser that keeps nothing */ }
  }

  var sections = Array.prototype.slice.call(document.querySelectorAll('section.question'))

  /** Marks, among buttons with data-t and data-to (ms), the one that holds the moment. */
  function mark(buttons, ms) {
    buttons.forEach(function (button) {
      var here = ms >= Number(button.dataset.t) && ms < Number(button.dataset.to)
      if (here) button.setAttribute('aria-current', 'true')
      else button.removeAttribute('aria-current')
    })
  }

  /** "1:05" */
  function clock(seconds) {
    var s = Math.floor(seconds)
    return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
  }

  /** Controls below the picture instead of over it, where they would cover what is written. */
  function controls(section, video) {
    var bar = section.querySelector('.bar')
    var play = bar.querySelector('.play')
    var at = bar.querySelector('.at')
    var time = bar.querySelector('.time')
    var toggle = function () { if (video.paused) void video.play(); else video.pause() }
    bar.hidden = false
    video.controls = false
    play.addEventListener('click', toggle)
    video.addEventListener('click', toggle)
    video.addEventListener('play', function () { play.textContent = 'Pause' })
    video.addEventListener('pause', function () { play.textContent = 'Play' })
    video.addEventListener('timeupdate', function () {
      at.value = String(video.currentTime * 1000)
      time.textContent = clock(video.currentTime) + ' of ' + clock(Number(at.max) / 1000)
    })
    at.addEventListener('input', function () { video.currentTime = Number(at.value) / 1000 })
    bar.querySelector('.wide').addEventListener('click', function () {
      video.controls = true
      if (video.requestFullscreen) void video.requestFullscreen()
    })
    document.addEventListener('fullscreenchange', function () { if (!document.fullscreenElement) video.controls = false })
  }

  /** Stops where the student is asked to try, and goes on when she says so. */
  function turns(section, video) {
    var cards = Array.prototype.slice.call(section.querySelectorAll('.turn'))
    var before = 0
    cards.forEach(function (card) {
      card.querySelector('button').addEventListener('click', function () {
        card.hidden = true
        before = video.currentTime = Number(card.dataset.to) / 1000 + 0.001
        void video.play()
      })
    })
    video.addEventListener('seeking', function () { before = video.currentTime })
    video.addEventListener('play', function () { cards.forEach(function (card) { card.hidden = true }) })
    video.addEventListener('timeupdate', function () {
      var now = video.currentTime
      cards.forEach(function (card) {
        var t = Number(card.dataset.t) / 1000
        if (video.paused || before >= t || now < t) return
        video.pause()
        now = video.currentTime = t
        card.hidden = false
        card.querySelector('button').focus()
      })
      before = now
    })
  }

  sections.forEach(function (section) {
    var video = section.querySelector('video')
    var steps = Array.prototype.slice.call(section.querySelectorAll('.steps button'))
    var said = Array.prototype.slice.call(section.querySelectorAll('.said'))
    controls(section, video)
    turns(section, video)
    var track = video.addTextTrack('captions', 'Captions', document.documentElement.lang)
    track.mode = 'hidden'
    said.forEach(function (button) {
      // Cue text is markup of its own; what was said is not.
      var text = button.textContent.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
      track.addCue(new VTTCue(Number(button.dataset.t) / 1000, Number(button.dataset.to) / 1000, text))
    })
    steps.concat(said).forEach(function (button) {
      button.addEventListener('click', function () {
        video.currentTime = Number(button.dataset.t) / 1000 + 0.001
        void video.play()
      })
    })
    video.addEventListener('timeupdate', function () {
      mark(steps, video.currentTime * 1000)
      mark(said, video.currentTime * 1000)
    })
    video.addEventListener('play', function () {
      sections.forEach(function (other) { if (other !== section) other.querySelector('video').pause() })
    })
    var speed = section.querySelector('.speed')
    var captions = section.querySelector('.captions')
    var take = function () {
      video.playbackRate = Number(speed.value)
      track.mode = captions.checked ? 'showing' : 'hidden'
    }
    speed.value = remembered('speed') || '1'
    if (!speed.value) speed.value = '1'
    captions.checked = remembered('captions') === 'on'
    take()
    // Some browsers forget the speed with each file they begin.
    video.addEventListener('loadedmetadata', take)
    speed.addEventListener('change', function () { remember('speed', speed.value); take() })
    captions.addEventListener('change', function () { remember('captions', captions.checked ? 'on' : 'off'); take() })
  })

  var find = document.getElementById('find')
  var found = document.getElementById('found')
  find.addEventListener('input', function () {
    var words = find.value.trim().toLowerCase()
    var hits = 0
    sections.forEach(function (section) {
      var any = false
      section.querySelectorAll('.steps button, .said, h2').forEach(function (place) {
        var hit = words !== '' && place.textContent.toLowerCase().indexOf(words) >= 0
        place.classList.toggle('hit', hit)
        if (hit) { any = true; hits++ }
      })
      section.hidden = words !== '' && !any
      if (words !== '' && any) section.querySelector('.transcript').open = true
    })
    found.textContent = words === '' ? '' : hits === 0 ? 'Nothing is found.' : hits + (hits === 1 ? ' place' : ' places')
  })
})()
