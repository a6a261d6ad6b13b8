export * from './entry-names'
export * from './plays-as'
export * from './register-table'
export * from './taking'
