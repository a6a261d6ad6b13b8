import { useLectern } from '~/stores/lectern'
import { useOpenWindow } from '~/stores/open-window'

/** One key and one button: shows the window that is held ready, goes back to the slides, or asks for a window. */
export function useWindowPress(): (stamp: number) => void {
  const lectern = useLectern()
  const windows = useOpenWindow()
  return (stamp) => {
    if (lectern.windowShown !== null) lectern.leaveWindow(stamp)
    else if (windows.held !== null && lectern.takesWindow) void lectern.showWindow(stamp)
    else windows.asking = true
  }
}
