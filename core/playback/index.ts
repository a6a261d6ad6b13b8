export * from './playback'
