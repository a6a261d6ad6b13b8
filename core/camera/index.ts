export * from './light'
export * from './video-fingerprint'
export * from './picture-anchor'
export * from './proposed-light'
