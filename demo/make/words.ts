/** What is said on each slide of the demo talks, by slide number. */
export const twelfthsNotes: readonly string[] = [
  'Good evening. Last week we learnt why the tide comes and goes. Tonight we learn to say how high it stands at any hour, with ' +
    'nothing but a pencil.',
  'Here is the question. Low water was at six, with eighty centimetres over the sill. High water comes at noon, with five ' +
    'metres sixty. Our boat needs two metres sixty. Can we leave at nine?',
  'If the tide rose evenly, this would be a straight line, from here to here. But it does not. It starts slowly, it hurries in ' +
    'the middle, and it slows down again before high water.',
  'Seafarers keep this in six numbers. In the first hour the tide rises by one twelfth of its range, in the second by two. Then ' +
    'three, and three again: that is the middle, where it hurries. Then two, and one. Add them up, and you have twelve.',
  'Now the sum. High water less low water: five point six less nought point eight is four point eight. That is the range. ' +
    'Divide it by twelve: nought point four. One twelfth is forty centimetres.',
  'And here it is, hour by hour. Look at the third hour: from two metres to three metres twenty. More than a metre in one hour.',
  'Three hours after low water we have one and two and three, six twelfths. That is half the range, two metres forty. With the ' +
    'eighty centimetres that were left, three metres twenty. She floats.',
  'The rule is a rule of thumb. Where the tide comes twice, in rivers, and in a storm it is wrong. Then take the tables.',
  'So: the range first, then a twelfth of it, then one, two, three, three, two, one. And keep half a metre in hand. Next week: knots.',
]

export const swiftsNotes: readonly string[] = [
  'Welcome to the spring meeting. In eight minutes you will be able to count birds that you cannot see.',
  'At dusk the light goes before the swifts do. If you only count what you see, you miss two birds out of three.',
  'This is the scream. High, thin, and it falls a little at the end. Listen for the fall, not for the pitch.',
  'When two birds call, their calls overlap. A single bird waits until it has finished.',
  'In June they race round the roofs in parties. Count the parties first.\nThen guess the size of each: five, ten, twenty.',
  'Stand still for ten minutes. Face the tower with your back to the wind. Tap once on the sheet for every call.',
  'Ten taps are about four birds. Sixty taps are about twenty. The table is on your sheet.',
  'House martins chatter all the time. Starlings imitate. Wait for the second call before you tap.',
  'These are our seven towers. Each has two counters, and the bell tower has three.',
  'Last year we went from sixty-two to a hundred and three in six weeks.',
  'Write down the place, the minute, the wind and the taps. Leave everything else for later.',
  '',
]

export const twelfthsDescriptions: readonly string[] = [
  '',
  '',
  'A line over six hours, from low water to high water: flat at the beginning and the end, steepest in the middle.',
  'Six bars, one for each hour from low to high water. They are one, two, three, three, two and one twelfth high, and come two ' +
    'at a time.',
]
