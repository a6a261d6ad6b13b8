/**
 * Options of `ffmpeg` and `ffprobe` before anything that was not made here: none of their allocations is over 256 MB, whatever
 * size a file claims that its pictures have. The largest picture that a camera gives here needs a tenth of it.
 */
export const BOUNDED: readonly string[] = ['-max_alloc', '268435456']

/** Options of `ffmpeg` before a clip of our own making: bounded, read as what it is, and nothing that it names is opened. */
export const OWN_CLIP: readonly string[] = [...BOUNDED, '-protocol_whitelist', 'file,pipe', '-f', 'mov']

/** Options of `ffmpeg` and `ffprobe` before a recording: bounded, read as what it is, and nothing that it names is opened. */
export const RECORDING: readonly string[] = [...BOUNDED, '-protocol_whitelist', 'file,pipe', '-f', 'matroska,webm']
