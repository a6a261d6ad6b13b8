export * from './clip-volumes'
export * from './playback'
