/** The same kind of fault is seldom told in the same words: what was found, its cause, what is advised; by unit and kind of fault. */
type Told = readonly [what: string, cause: string, advice: string];

export const TOLD_OTHERWISE: Readonly<Record<string, Told>> = {
  "foxglove tank": [
    "Fresh tank shifts when the van leans, two screws gone",
    "Screws worked out of the floor",
    "Through bolts with wide washers in place of screws",
  ],
  "sundew tank": [
    "Tank's bungee perished, tank rides on its hose tail",
    "Rubber gone hard in the sun",
    "Webbing with a buckle, and a chock fore and aft",
  ],
  "turnstone pump": [
    "Pump ticks over once in twenty minutes, nothing is drawn",
    "Weep somewhere, or the pump's own check",
    "Shut the valve behind the pump and listen for an hour",
  ],
  "foxglove pump": [
    "Pump does not fall silent at night when the heater has run",
    "Pressure switch set too near its cut-out",
    "Measure cut-in and cut-out, then turn the screw by an eighth",
  ],
  "yarrow pump": [
    "Pump short-cycles at the shower, the rose pulses",
    "Accumulator has lost its air",
    "Pump its air up with the water off, see whether it holds a week",
  ],
  "haywain strainer": [
    "Strainer's bowl has a white bloom all round, cracks under a lens",
    "A cleaner that the plastic does not bear",
    "A new bowl; only soap and water on it from now on",
  ],
  "foxglove tap": [
    "Kitchen lever has to be pushed down hard to stop it",
    "Cartridge worn on the cold side",
    "A cartridge of the same make, tap body stays",
  ],
  "haywain tap": [
    "Second basin runs a thread of water for a minute after it is shut",
    "Aerator packed with chips of scale",
    "Soak the aerator in vinegar, look again with it off",
  ],
  "yarrow tap": [
    "A drop every ten seconds at the spout, hot side only",
    "Seat scored by grit from the heater",
    "Rinse the heater first, then renew the hot cartridge",
  ],
  "dipper tap": [
    "Foot pump's spout dribbles when the boat heels",
    "Its duckbill does not close any more",
    "A new duckbill from the spares drawer",
  ],
  "sundew tap": [
    "Hand pump's spout runs back, three strokes until water comes",
    "Lower valve leather dried out",
    "Grease or renew the leather, and keep the pump wet in summer",
  ],
  "yarrow toilet": [
    "Bowl does not hold its water overnight",
    "Blade seal lifted by scale",
    "Clean and grease the blade; a new seal if it is nicked",
  ],
};
