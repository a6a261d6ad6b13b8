export * from './bed-volumes'
export * from './clip-volumes'
export * from './playback'
