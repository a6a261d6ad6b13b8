/** An address that somebody keeps, and what signs in there. */
export interface SignIn {
  readonly address: string
  /** Empty: nobody signs in. */
  readonly user: string
  readonly word: string
}
