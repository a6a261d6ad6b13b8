import type { ClipScene } from '@core/scene'
import { ClipPlayers } from '~/player'
import type { ClipPlay } from '~/player'
import { usePictures } from './usePictures'

/**
 * Plays clips beside a painted picture, and gives the painter what is seen of them and all other pictures.
 * @param urlOf address of a file by its digest
 * @param arrived is called when one more picture is there
 */
export function useClipPlayers(urlOf: (digest: string) => string, arrived: () => void) {
  const players = new ClipPlayers(urlOf, arrived)
  onBeforeUnmount(() => {
    players.release()
  })
  return {
    shelf: { ...usePictures(urlOf, arrived), ofClip: (clip: ClipScene) => players.drawable(clip) },
    elementOf: (clip: ClipScene): HTMLMediaElement | undefined => players.elementOf(clip),
    follow: (scenes: readonly ClipScene[], how: ClipPlay): void => {
      players.follow(scenes, how)
    },
  }
}
