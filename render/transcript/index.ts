export * from './transcript-document'
