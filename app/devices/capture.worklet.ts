/** Hands on captured sound in pieces of about 20 ms, with the frame at which each began. */
class Capture extends AudioWorkletProcessor {
  private parts: Int16Array[] = []
  private frame = 0
  private held = 0

  process(inputs: Float32Array[][]): boolean {
    const plane = inputs[0]?.[0]
    if (!plane) return true
    if (!this.held) this.frame = currentFrame
    this.parts.push(Int16Array.from(plane, v => Math.round(Math.max(-1, Math.min(1, v)) * 32767)))
    this.held += plane.length
    if (this.held >= sampleRate / 50) this.send()
    return true
  }

  private send() {
    const pcm = new Int16Array(this.held)
    let at = 0
    for (const part of this.parts) {
      pcm.set(part, at)
      at += part.length
    }
    this.port.postMessage({ pcm, frame: this.frame }, [pcm.buffer])
    this.parts = []
    this.held = 0
  }
}

registerProcessor('capture', Capture)
