export * from './shown-document'
