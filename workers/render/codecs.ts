import {
  canEncodeAudio,
  canEncodeVideo,
  Mp4OutputFormat,
  Quality,
  WebMOutputFormat,
  type AudioCodec,
  type VideoCodec,
  type VideoEncodingConfig,
} from 'mediabunny'
import { registerAacEncoder } from '@mediabunny/aac-encoder'
import { KEY_MS } from '../../core/video/frames'
import { Trouble } from '../../core/folio/trouble'
import type { Container } from './job'

export interface Codecs {
  video: VideoCodec
  audio: AudioCodec
}

let aacReady: Promise<boolean> | undefined
/** AAC by the browser where it can, else by the encoder that ships with the application. */
export function aac(): Promise<boolean> {
  aacReady ??= canEncodeAudio('aac', { numberOfChannels: 1, sampleRate: 48_000 }).then(native => {
    if (!native) registerAacEncoder()
    return canEncodeAudio('aac', { numberOfChannels: 1, sampleRate: 48_000 })
  })
  return aacReady
}

/** The trouble of a browser that cannot code something. @param next what to do */
export const noEncoder = (what: string, next: string) =>
  new Trouble('no-encoder', `This browser cannot make ${what}.`, 'Your takes are untouched.', next)

/**
 * The codecs of a container on this browser: MP4 with H.264 + AAC, WebM with VP9 (else VP8) + Opus.
 * @throws Trouble `no-encoder`
 */
export async function codecsFor(container: Container, size: { width: number; height: number }): Promise<Codecs> {
  const none = (what: string) =>
    noEncoder(
      what,
      container === 'mp4' ? 'Choose WebM, or publish from a browser that can.' : 'Publish from another browser.',
    )
  if (container === 'mp4') {
    if (!(await canEncodeVideo('avc', size))) throw none('MP4 video (H.264)')
    if (!(await aac())) throw none('AAC sound for MP4')
    return { video: 'avc', audio: 'aac' }
  }
  if (!(await canEncodeAudio('opus', { numberOfChannels: 1, sampleRate: 48_000 }))) throw none('Opus sound')
  if (await canEncodeVideo('vp9', size)) return { video: 'vp9', audio: 'opus' }
  if (await canEncodeVideo('vp8', size)) return { video: 'vp8', audio: 'opus' }
  throw none('WebM video')
}

/** Whether this browser can make a container at all. */
export async function canMake(container: Container): Promise<boolean> {
  return codecsFor(container, { width: 1280, height: 720 }).then(
    () => true,
    () => false,
  )
}

/** The muxer's format of a container. */
export const formatOf = (container: Container) =>
  container === 'mp4' ? new Mp4OutputFormat({ metadataFormat: 'udta' }) : new WebMOutputFormat()

/**
 * Settings for handwriting: even quality for VP9, a bit rate for H.264 (which is a third faster when it is not told that
 * it is text, in files a seventh larger); key frames are asked for one by one.
 */
export function videoConfig(codec: VideoCodec, size: { width: number; height: number }): VideoEncodingConfig {
  const pixels = (size.width * size.height) / (1280 * 720)
  return {
    codec,
    quality:
      codec === 'vp9'
        ? new Quality({ quantizer: 30, bitrate: 900_000 * pixels })
        : new Quality({ bitrate: Math.round(1_500_000 * pixels), bitrateMode: 'variable' }),
    keyFrameInterval: (2 * KEY_MS) / 1000,
    ...(codec === 'avc' ? {} : { contentHint: 'text' }),
    latencyMode: 'quality',
  }
}
