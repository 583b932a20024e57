/**
 * The head of a WAV file of mono 16-bit samples (Microsoft and IBM, Multimedia Programming Interface 1.0, 1991).
 * @param samples how many follow; @param rate Hz
 */
export function wavHeader(samples: number, rate: number): ArrayBuffer {
  const view = new DataView(new ArrayBuffer(44))
  const text = (at: number, s: string) => { for (let i = 0; i < s.length; i++) view.setUint8(at + i, s.charCodeAt(i)) }
  text(0, 'RIFF')
  view.setUint32(4, 36 + samples * 2, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, rate, true)
  view.setUint32(28, rate * 2, true)
  view.setUint16(32, 2, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, samples * 2, true)
  return view.buffer
}
