import { ALL_FORMATS, BlobSource, Input, type InputAudioTrack, type InputVideoTrack } from 'mediabunny'

const open = (file: Blob) => new Input({ source: new BlobSource(file), formats: ALL_FORMATS })

/** The first video track of a file that is read from disk when needed; null where it has none. */
export const videoTrackOf = (file: Blob): Promise<InputVideoTrack | null> => open(file).getPrimaryVideoTrack()
/** The first audio track of a file that is read from disk when needed; null where it has none. */
export const audioTrackOf = (file: Blob): Promise<InputAudioTrack | null> => open(file).getPrimaryAudioTrack()
