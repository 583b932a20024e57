/** The global scope of an audio worklet, which TypeScript's library does not describe. */
declare const currentFrame: number
declare const sampleRate: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void
declare module '*?worker&url' {
  const url: string
  export default url
}
