import { describe, expect, it } from 'vitest'
import { languageOf, primaryOf } from '.'

describe('the language of notes', () => {
  it.each([
    [
      'en',
      'The tide rises and falls twice a day, and whoever waits on the pier long enough sees both. We begin with low water and ' +
        'look at the boats. Then we ask why the water comes back, and what the moon has to do with it. At the end everybody reads ' +
        'the table of the harbour and says when the ferry can leave.',
    ],
    [
      'de',
      'Das Wasser steigt und fällt zweimal am Tag, und wer lange genug auf der Mole wartet, sieht beides. Wir fangen mit dem ' +
        'niedrigen Wasser an und sehen uns die Boote an. Danach fragen wir, warum das Wasser zurückkommt und was der Mond damit ' +
        'zu tun hat. Am Ende liest jeder die Tafel des Hafens und sagt, wann die Fähre fahren kann.',
    ],
    [
      'fr',
      'La mer monte et descend deux fois par jour, et celui qui attend assez longtemps sur la jetée voit les deux. Nous ' +
        'commençons par la basse mer et nous regardons les bateaux. Ensuite nous demandons pourquoi l’eau revient, et ce que la ' +
        'lune y fait. À la fin chacun lit la table du port et dit quand le bac peut partir.',
    ],
    [
      'ja',
      (
        'ここでは毎日二回、水面が上がったり下がったりします。桟橋で十分に長く待っていれば、その両方を見ることができます。まず干潮から始めて、それから船を見てみましょう。' +
        '次に、月がどのように水を引き寄せるのかを説明します。最後に、港の時刻表の読み方を練習します。'
      ).repeat(2),
    ],
    [
      'zh',
      '潮水每天涨落两次，在码头上等得足够久的人都能看到。我们先从低潮开始，然后看看船只。接下来我们讲月亮怎样吸引海水，为什么每天的时间都会晚一些。最后大家一起练习读潮汐表，算一算下一次低潮是什么时候，船什么时候可以出港，什么时候必须回来。'.repeat(
        3,
      ),
    ],
    [
      'el',
      'Το νερό ανεβαίνει και κατεβαίνει δύο φορές την ημέρα, και όποιος περιμένει αρκετά στην προβλήτα βλέπει και τα δύο. ' +
        'Αρχίζουμε με τα χαμηλά νερά και κοιτάμε τις βάρκες. Μετά ρωτάμε γιατί γυρίζει το νερό και τι κάνει το φεγγάρι. Στο τέλος ' +
        'ο καθένας διαβάζει τον πίνακα του λιμανιού.',
    ],
  ])('is recognised: %s', (tag, text) => {
    expect(languageOf(text)).toBe(tag)
    // As notes of a whole talk are: much more of it.
    expect(languageOf(`${text} `.repeat(12))).toBe(tag)
  })

  it('is not guessed from a few words', () => {
    expect(languageOf('Low water at noon.')).toBeNull()
    expect(languageOf('')).toBeNull()
    expect(languageOf('1234 '.repeat(90))).toBeNull()
  })

  it('of a tag is told from what else it says', () => {
    expect([primaryOf('zh-cmn-Hans'), primaryOf('pt-BR'), primaryOf('de')]).toEqual(['zh', 'pt', 'de'])
  })
})
