export * from './bundle-talk'
export * from './names-in-folder'
export * from './small-form'
export * from './watch-page'
