/** What a product is let while bad inputs are fed to it, as environment. */
export const BOUNDS = { AISLE_IMPORT_SECONDS: '20', AISLE_IMPORT_MEMORY_MB: '700', AISLE_MAX_UPLOAD_MB: '300' } as const
/** The most that its server, its worker and what they start may hold, in MB; of the last, what may be asked for between two looks too. */
export const MOST_HELD = { server: 500, worker: 600, apart: 900 } as const
