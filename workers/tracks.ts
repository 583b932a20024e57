import { ALL_FORMATS, BlobSource, Input, type InputAudioTrack, type InputVideoTrack } from 'mediabunny'

const open = (file: Blob) => new Input({ source: new BlobSource(file), formats: ALL_FORMATS })

/** The first video track of a file that is read from disk when needed; null where it has none. */
export const videoTrackOf = (file: Blob): Promise<InputVideoTrack | null> => open(file).getPrimaryVideoTrack()
/** The first audio track of a file that is read from disk when needed; null where it has none. */
export const audioTrackOf = (file: Blob): Promise<InputAudioTrack | null> => open(file).getPrimaryAudioTrack()

/** The mark at the head of Opus, and where it says how many samples to leave out at the beginning (RFC 7845, 5.1). */
const OPUS_HEAD = 'OpusHead'
const PRE_SKIP_AT = 10

/**
 * A track whose sound is read from somewhere in the middle. A decoder of Opus leaves samples out wherever it begins,
 * as its header says to do at the beginning of the sound; here the header does not say so.
 */
export function fromMiddle(track: InputAudioTrack): InputAudioTrack {
  const middle = Object.create(track) as InputAudioTrack
  middle.getDecoderConfig = async () => {
    const config = await track.getDecoderConfig()
    const head = config?.description && new Uint8Array(bytesOf(config.description))
    if (!head || !OPUS_HEAD.split('').every((c, i) => head[i] === c.charCodeAt(0))) return config
    head[PRE_SKIP_AT] = head[PRE_SKIP_AT + 1] = 0
    return { ...config, description: head }
  }
  return middle
}

const bytesOf = (data: AllowSharedBufferSource): ArrayBuffer =>
  ArrayBuffer.isView(data)
    ? (data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer)
    : ((data as ArrayBuffer).slice(0) as ArrayBuffer)
