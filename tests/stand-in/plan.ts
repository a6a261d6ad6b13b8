/** When something happens to a device: so many ms after it was opened, or when the test says so. */
export type When = number | 'told'

/** How a stand-in camera and microphone behave. All times are in ms of the page's clock. */
export interface StandIn {
  /** A click is heard, and a flash seen, at every multiple of this. */
  readonly every: number
  readonly mic: {
    readonly rate: number
    readonly channels: 1 | 2
    /** How much faster its own clock runs than it says, in parts of a million. */
    readonly ppm: number
    /** Time that passes in it before its samples reach the browser, which knows nothing of it. */
    readonly late: number
    /** Greatest error of a block's time stamp. */
    readonly jitter: number
    /** Another rate, from then on. */
    readonly change?: { readonly after: When; readonly rate: number }
    /** When it is pulled out. */
    readonly ends?: When
  }
  readonly camera: {
    readonly width: number
    readonly height: number
    /** Pictures a second. */
    readonly rate: number
    readonly late: number
    /** How long its first picture takes. */
    readonly starts: number
    /** Another rate, from then on, as in the dark. */
    readonly change?: { readonly after: When; readonly rate: number }
    /** When it is pulled out. */
    readonly ends?: When
  }
}
