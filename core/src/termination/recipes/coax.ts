import { CORE, EDGE, TIP } from '../assembly.js';
import { bodyOn, len, says, type CardFigures, type RecipeStep } from './recipe.js';

const hasPin = (f: CardFigures): boolean => f.connector.tools.some((t) => t.kind === 'pin crimp tool');
const hollow = (f: CardFigures): boolean => f.connector.centre === 'hollow tip';
const outdoors = (f: CardFigures): boolean => f.cable.outdoor;

const strip: RecipeStep = {
  id: 'strip',
  verb: 'strip',
  title: (f) =>
    `Strip: jacket ${len(f, f.connector.strip.jacketMm)}, screen ${len(f, f.connector.strip.screenMm)}, dielectric ${len(f, f.connector.strip.insulationMm)}`,
  how: says(
    'All three measured from the cable’s end. A cutter with three blades does it in one turn; one with two takes two passes: jacket and screen, then the dielectric. Turn it without pressing.',
  ),
  reason: 'The three lengths set where centre and screen end inside the body; half a millimetre decides.',
  accept: 'Braid whole and long, dielectric square and clean, centre without a nick.',
  reject:
    'A nicked centre breaks in the wind, a short braid lets go: cut off and strip anew; what is threaded stays on.',
  caution: 'Braid strands prick and clipped ends fly: eyes away.',
  wrongTurns: [
    'Cut too deep: cut the end off square and strip again.',
    'White film left on the centre: scrape it off with a fingernail, or it does not conduct.',
  ],
  picture: 'strip',
  minutes: 0.8,
  tool: 'coax stripper',
  girths: (f) => [
    { zone: TIP, mm: f.cable.bareMm ?? 1 },
    { zone: CORE, mm: (f.cable.dielectricMm ?? f.cable.jacketMm * 0.6) + 1 },
  ],
};

const clearCentre: RecipeStep = {
  id: 'clear',
  verb: 'inspect',
  title: says('Look round the centre: no strand near it'),
  how: says('Turn the end under a light. Pull away every strand and shred of screen near the centre.'),
  reason: 'One strand touching the centre is the first cause of shorts.',
  accept: 'Clean dielectric all round between screen and centre.',
  reject: 'A strand at the centre shorts the cable inside the connector, where nobody sees it: pull it off.',
  wrongTurns: ['Screen strand near the centre: pull it back, do not push it in.'],
  picture: 'strip',
  minutes: 0.3,
};

const pinCrimped: RecipeStep = {
  id: 'pin',
  verb: 'crimp',
  when: (f) => hasPin(f) && f.choices.centrePin === 'crimped',
  title: says('Crimp the centre pin'),
  how: says('Push the pin on until it meets the dielectric. All strands inside. Crimp once, square.'),
  reason: 'The pin’s place sets how far it reaches into the socket.',
  accept: 'Pin tight to the dielectric, wire visible in the hole, straight.',
  reject: 'A gap at the dielectric leaves the pin proud and opens the socket: cut off and strip anew.',
  wrongTurns: ['A strand is outside the pin: take a new pin, twist the strands, do not cut one off.'],
  picture: 'strip',
  minutes: 0.5,
  tool: 'pin crimp tool',
};
const pinSoldered: RecipeStep = {
  ...pinCrimped,
  verb: 'solder',
  when: (f) => hasPin(f) && f.choices.centrePin === 'soldered',
  title: says('Solder the centre pin'),
  how: says(
    'Push the pin on until it meets the dielectric. Iron on the pin, a little solder through the hole, then hands off.',
  ),
  accept: 'Solder seen in the hole, none on the outside, dielectric not melted.',
  reject:
    'Solder on the outside spreads the socket: file it off, or take a new pin. Melted dielectric: cut off.',
  caution: 'Hot iron and fumes: rest it between, air the place.',
  wrongTurns: [
    'Solder on the outside of the pin: file it off before it goes in.',
    'The dielectric has swollen: too hot for too long; cut off and strip anew.',
  ],
  tool: undefined,
  minutes: 1.2,
};

const body: RecipeStep = {
  id: 'body',
  verb: 'insert',
  title: (f) =>
    hasPin(f) ? 'Push the body on until the pin clicks' : 'Push the body on until the dielectric is flush',
  how: (f) =>
    hasPin(f)
      ? 'Flare the braid, push the body’s tail between braid and dielectric until the pin snaps home.'
      : 'Flare the braid, push the tail between braid and dielectric until the white is level with the inside.',
  reason: 'The braid has to lie outside the tail: only there can the ferrule hold it.',
  accept: 'Pin or dielectric at the right depth, all braid outside the tail.',
  reject: 'Braid inside the tail shorts or lets go; a pin too deep opens the circuit: draw it off and look.',
  wrongTurns: [
    'It will not go: a strand is under the tail, or the dielectric is too thick for this connector.',
  ],
  picture: 'finished',
  minutes: 0.6,
  girths: (f) => [...bodyOn(f), { zone: CORE, mm: f.connector.stemMm ?? f.cable.jacketMm }],
};

const ferruleUp: RecipeStep = {
  id: 'ferrule',
  verb: 'insert',
  title: says('Bring the ferrule up over the braid'),
  how: says('Trim the braid so that it stops short of the body, and slide the ferrule up against it.'),
  reason: 'The ferrule presses braid on tail: that is the screen’s contact and the cable’s hold.',
  accept: 'Ferrule against the body, no braid showing past it.',
  reject: 'Braid under the edge keeps the ferrule from closing: trim it.',
  wrongTurns: [
    'The ferrule is not on the cable: it cannot pass the body. Say so under "something was left out".',
  ],
  picture: 'finished',
  minutes: 0.3,
  brings: { part: 'ferrule', to: CORE },
};

const crimpFerrule: RecipeStep = {
  id: 'crimp',
  verb: 'crimp',
  title: (f) =>
    `Crimp with the ${f.connector.tools.find((t) => t.kind === 'hex crimp tool')?.size ?? 'right'} die`,
  how: says('Die square against the body, close until the tool releases. One crimp, no second beside it.'),
  reason: 'A die too small splits the ferrule, one too big leaves it turning: read the number on the die.',
  accept: 'Clean hexagon, ferrule does not turn or slide.',
  reject: 'A split or a turning ferrule means the wrong die: cut off and start again with a new connector.',
  noWayBack: true,
  wrongTurns: ['The ferrule turns on the cable: wrong die or wrong connector for this cable.'],
  picture: 'finished',
  minutes: 0.4,
  tool: 'hex crimp tool',
};

const shrink: RecipeStep = {
  id: 'shrink',
  verb: 'shrink',
  works: 'heat-shrink',
  brings: { part: 'heat-shrink', to: CORE },
  title: says('Heat-shrink over the ferrule'),
  how: says('Half on the ferrule, half on the jacket. Heat from the ferrule outward, all round, and stop.'),
  reason: 'It stiffens the place where the cable bends, and keeps water from the braid.',
  accept: 'Tight on both, no fold.',
  reject: 'Loose on the jacket: a size too big; cut it off, wind tape.',
  caution: 'Hot air burns hands and softens the dielectric: keep it moving.',
  picture: 'finished',
  minutes: 0.7,
  tool: 'heat gun',
};

const foldBraid: RecipeStep = {
  id: 'fold',
  verb: 'fold back',
  title: says('Fold the braid back over the jacket'),
  how: (f) =>
    f.cable.screens.length > 2
      ? 'Fold the outer braid back, cut the second foil off, fold the inner braid back over it. The foil bonded to the dielectric stays.'
      : f.cable.screens.includes('foil')
        ? 'Comb the braid back over the jacket, all round. The foil bonded to the dielectric stays.'
        : 'Comb the braid back over the jacket, all round. Nothing of it stays on the dielectric.',
  reason: 'The body grips the folded braid: a bare side is a screen with a hole in it.',
  accept: 'Braid even all round, not longer than the fold allows.',
  reject: 'Strands standing forward find the centre: fold them back one by one.',
  picture: 'strip',
  minutes: 0.5,
  girths: (f) => [{ zone: EDGE, mm: f.cable.jacketMm + 0.4 }],
};

/** A hollow tip: the centre lies in it, and touches it only where something holds it there. */
const fillTip: RecipeStep = {
  id: 'tip',
  verb: 'solder',
  when: hollow,
  title: says('Solder the centre into the tip'),
  how: says(
    'The centre reaches to the end of the hollow tip. Iron on the tip from outside, a little solder into its end, then hands off.',
  ),
  reason: 'A centre that only lies in the tip makes contact today and crackles tomorrow.',
  accept: 'Solder closes the tip’s end, smooth, none on its outside; the dielectric is not melted.',
  reject:
    'Solder on the outside spreads the socket: wipe it off hot. A centre that moves in the tip is not held: heat it again.',
  caution: 'Hot iron and fumes: rest it between, air the place.',
  wrongTurns: [
    'The centre ends short of the tip’s end: the strip was too short; cut off and strip anew.',
    'The dielectric has swollen: too hot for too long; cut off and strip anew.',
  ],
  picture: 'finished',
  minutes: 1,
};

/** An F plug's centre is the cable's own, and stands out of its nut. */
const isF = (f: CardFigures): boolean =>
  f.connector.tools.some((t) => t.kind === 'compression tool' && t.size === 'F');

const pushOn: RecipeStep = {
  ...body,
  when: (f) => !isF(f),
  title: says('Push the body on until the dielectric is flush'),
  how: says(
    'Push straight until the white dielectric meets the seat inside and the centre sits in its contact. Do not twist the cable.',
  ),
  reason: 'The braid has to lie outside the tail, folded back: only there does the closing body grip it.',
  accept: 'White against the seat all round, centre straight in its contact.',
  reject:
    'White short of the seat leaves a gap that reflects, a bent centre misses its contact: draw it off, look, push again.',
  minutes: 0.5,
};
const pushOnF: RecipeStep = {
  ...pushOn,
  when: isF,
  how: says(
    'Push straight until the white dielectric is level with the inside of the nut. Do not twist the cable.',
  ),
  accept: 'White level with the seat inside, centre standing out 1 to 3 mm past the nut.',
  reject:
    'White short of the seat leaves a gap that reflects; past it the nut does not close: push, or cut back.',
};

const compress: RecipeStep = {
  id: 'compress',
  verb: 'compress',
  title: says('Compress, one stroke'),
  how: says(
    'Set the adapter for this connector, lay the cable straight in the tool and close until it stops.',
  ),
  reason: 'Compression is one-way: the sleeve is driven in and does not come out.',
  accept: 'Sleeve home all round, cable does not turn.',
  reject: 'A crooked or half-driven sleeve leaks water and turns: cut off, new connector.',
  noWayBack: true,
  wrongTurns: ['The centre bent in the tool: straighten it only if it is not nicked.'],
  picture: 'finished',
  minutes: 0.3,
  tool: 'compression tool',
};

const screwOn: RecipeStep = {
  id: 'screw',
  verb: 'screw',
  title: says('Screw the body on to the stop'),
  how: says(
    'Turn clockwise by hand, then a last half turn with pliers on the body, until the dielectric is flush inside.',
  ),
  reason: 'Only its thread in the jacket holds it: quick, weak, and not for outdoors.',
  accept: 'White level with the seat inside; the connector does not turn back by hand.',
  reject: 'If it turns freely the jacket is too thin for it: another connector.',
  caution:
    'Indoors only, and not where somebody pulls on it. If it must be: a turn of tape against turning back, and a label with the date by which it is replaced.',
  picture: 'finished',
  minutes: 0.6,
  tool: 'flat-jawed pliers',
  girths: bodyOn,
};

const prove: RecipeStep = {
  id: 'prove',
  verb: 'inspect',
  title: says('Prove: open, and closed through the far end'),
  how: says(
    'Meter between centre and shell. Far end open: no reading. Far end joined, centre to shell: closed. Tug the cable by its jacket meanwhile.',
  ),
  reason:
    'A strand at the centre shows with the far end open, a centre that is not held only with it closed.',
  accept: (f) =>
    `Open, then closed, and steady while it is tugged; nothing slips.${f.connector.nutted ? ' Mated by hand first, then snug with a spanner, or to the torque on its sheet.' : ''}`,
  reject:
    'A short: a strand of the screen is at the centre. No path, or one that flickers: the centre is not held. Cut off, new connector.',
  caution: 'On a line with a load or a DC path, disconnect it first.',
  picture: 'finished',
  minutes: 0.5,
};

const seal: RecipeStep = {
  id: 'seal',
  verb: 'close',
  when: outdoors,
  title: says('Seal it, and leave a drip loop'),
  how: says(
    'After mating: self-amalgamating tape, stretched, from the cable up over the joint, then a layer against the sun. Drip loop below.',
  ),
  reason: 'Water runs along the inside of the braid for metres.',
  accept: 'No step or hole in the tape, loop lowest of all.',
  reject: 'Tape that lifts lets water in and keeps it there: strip it off and do it warm and dry.',
  caution: 'Masts, ladders and lightning protection: bonding belongs to a licensed person.',
  picture: 'finished',
  minutes: 1.5,
};

const capOn: RecipeStep = {
  id: 'clamp',
  verb: 'close',
  title: says('Lay the clamp round the braid, open its claws'),
  how: says(
    'Fold the braid back over the jacket’s edge and lay the clamp ferrule round it, claws towards the end. Trim what stands past it.',
  ),
  reason: 'The claws press the braid on the jacket when the cap comes down: they are the screen’s contact.',
  accept: 'Braid under the claws all round, none past them.',
  reject: 'A strand in front of the claws finds the centre: trim it.',
  picture: 'strip',
  minutes: 0.8,
  tool: 'side cutters',
  girths: (f) => [{ zone: EDGE, mm: f.cable.jacketMm + 0.2 }],
};

const pinIntoBody: RecipeStep = {
  ...pinSoldered,
  id: 'pin',
  when: undefined,
  title: says('Push the pin on, solder the centre at its tip'),
  how: says(
    'Pin with its insulator over the centre until the centre shows at the tip. Iron on the tip, a little solder, hands off; cut the centre flush.',
  ),
  tool: 'soldering iron',
  girths: bodyOn,
};

const capDown: RecipeStep = {
  id: 'cap',
  verb: 'screw',
  title: says('Body over the pin, cap down'),
  how: says(
    'Set the body over the insulator, bring the cap forward and screw it down by hand, then a quarter turn.',
  ),
  reason: 'The cap is what presses the claws: loose, the screen is loose.',
  accept: 'Cap tight, cable does not turn; pin in the middle of the shell.',
  reject: 'A pin aside of the middle spreads the socket: open it and set the insulator straight.',
  wrongTurns: [
    'The cap is not on the cable: it cannot pass the body. Say so under "something was left out".',
  ],
  picture: 'finished',
  minutes: 0.6,
  tool: 'flat-jawed pliers',
};

export const coaxClamp: readonly RecipeStep[] = [
  strip,
  clearCentre,
  capOn,
  pinIntoBody,
  capDown,
  prove,
  seal,
];

export const coaxCrimp: readonly RecipeStep[] = [
  strip,
  clearCentre,
  pinCrimped,
  pinSoldered,
  body,
  ferruleUp,
  crimpFerrule,
  shrink,
  fillTip,
  prove,
  seal,
];
export const coaxCompression: readonly RecipeStep[] = [
  strip,
  foldBraid,
  clearCentre,
  pushOn,
  pushOnF,
  compress,
  fillTip,
  prove,
  seal,
];
export const coaxScrewOn: readonly RecipeStep[] = [
  strip,
  foldBraid,
  clearCentre,
  screwOn,
  fillTip,
  prove,
  seal,
];
