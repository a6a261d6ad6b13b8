export * from './video-fingerprint'
export * from './picture-anchor'
