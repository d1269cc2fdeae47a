/**
 * How each point of an inspection is looked at. A kind of part names its points by id; here are their words, what the
 * hand does, what passes and what fails. Words may change, ids stay: what was looked at over the years hangs from them. Common practice, no source, where none is named.
 */
export interface Look {
  readonly how: string;
  readonly passes: string;
  readonly fails: string;
  /** A figure that is taken there. */
  readonly reading?: LookReading;
  /** Before the hand goes there. */
  readonly caution?: string;
}

interface LookReading {
  readonly label: string;
  readonly is: "length" | "pressure" | "temperature" | "date" | "volts" | "fraction";
  /** How many are taken, as at three places of a rod. */
  readonly times: number;
}

const HEATER_OFF =
  "Heater off at its switch and breaker, water below 40 °C, pressure off, before a plug is pulled.";
const once = (label: string, is: LookReading["is"]): LookReading => ({ label, is, times: 1 });

type Row = readonly [
  point: string,
  how: string,
  passes: string,
  fails: string,
  more?: Pick<Look, "reading" | "caution">,
];

const ROWS: Readonly<Record<string, Row>> = {
  "moves-and-holds": [
    "Moves and holds",
    "Turn it through its whole way and back; with water behind it shut it and open what follows.",
    "Moves by hand, nothing passes when shut.",
    "Sticks, needs a tool, weeps at its stem or passes when shut.",
  ],
  "moves-freely": [
    "Moves freely",
    "Work it through its whole way.",
    "Moves by hand over its whole way.",
    "Stiff, short of its stop, or bent.",
  ],
  "moves-to-every-mark": [
    "Moves to every mark",
    "Turn it to each mark in turn.",
    "Stops at each and stays there.",
    "Slips past a mark or will not reach one.",
  ],
  "moves-through-its-whole-turn": [
    "Moves through its whole turn",
    "Shut and open it once, with the hose beyond it watched.",
    "Turns a full quarter by hand.",
    "Seized, short of its stop, or its handle is gone.",
    {
      caution:
        "A seacock that breaks floods the hull: a plug of its size to hand, and never forced below the waterline.",
    },
  ],
  "joints-dry": [
    "Joints dry",
    "Dry paper round each joint, pump on.",
    "Paper stays dry.",
    "A drop, a white or green trace, a stain below.",
  ],
  dry: [
    "Dry",
    "Dry paper round it, pump on.",
    "Paper stays dry.",
    "A drop, a trace or a stain below.",
  ],
  "dry-both-sides": [
    "Dry both sides",
    "Dry paper on both faces of the wall.",
    "Dry on both.",
    "Wet or stained on either.",
  ],
  "dry-behind-the-hatch": [
    "Dry behind the hatch",
    "Open the hatch and feel the floor behind.",
    "Dry.",
    "Wet, swollen or stained.",
  ],
  "nut-tight": [
    "Nut tight",
    "By hand, then a quarter turn with the tool held.",
    "Does not move.",
    "Turns, or its seal is squeezed out.",
  ],
  "edge-guarded": [
    "Edge guarded",
    "Look at the cut edge round the pipe.",
    "Bush or sleeve whole.",
    "Bare edge against the pipe.",
  ],
  "washer-present": [
    "Washer present",
    "Undo it dry and look.",
    "Flat washer seated.",
    "None, split or rolled.",
  ],
  "hand-tight-on-a-clean-seat": [
    "Hand tight on a clean seat",
    "Undo and remake it once.",
    "Clean seat, tight by hand.",
    "Needs a tool to stay dry.",
  ],
  "right-for-both-pipes": [
    "Right for both pipes",
    "Measure both pipes' outsides.",
    "Each side made for its pipe.",
    "One side forced on: half-inch nominal is not 15 mm.",
  ],
  "still-needed": [
    "Still needed",
    "Ask what it was for.",
    "Known, and wanted.",
    "Nobody knows: trace it before it is trusted.",
  ],
  "look-behind-it-and-say-what-it-is": [
    "Look behind it and say what it is",
    "Trace both sides until each is known.",
    "Known, and drawn on the map.",
    "Not reached: stays not known.",
  ],
  "holds-back-when-the-other-side-is-pressed": [
    "Holds back when the other side is pressed",
    "Press the far side and open the near one.",
    "Nothing comes back.",
    "Water comes back, or it cannot be told.",
  ],
  "cartridge-within-its-date": [
    "Cartridge within its date",
    "Read the date on the cartridge or its card.",
    "Within its life.",
    "Past it, or no date to be found.",
    { reading: once("Fitted on", "date") },
  ],
  "bowl-not-crazed": [
    "Bowl not crazed",
    "Wipe it and hold a lamp behind.",
    "Clear, no fine lines.",
    "Fine lines, clouding or a chip at the thread.",
  ],
  "seal-sound-and-greased": [
    "Seal sound and greased",
    "Take it out and run it through the fingers.",
    "Round, whole, greased with a drinking-water grease.",
    "Flat, cut or dry.",
  ],
  "seal-sound": [
    "Seal sound",
    "Take it out and run it through the fingers.",
    "Round and whole.",
    "Flat, cut or missing.",
  ],
  "mesh-clean": [
    "Mesh clean",
    "Open the bowl, pump off.",
    "Clean mesh, no tear.",
    "Blocked or torn: what was in it is worth a note.",
  ],
  "hardness-after-it": [
    "Hardness after it",
    "Test strip at the next outlet.",
    "Soft as its maker says.",
    "As hard as before it.",
  ],
  "salted-within-its-date": [
    "Salted within its date",
    "Read its card.",
    "Within the interval.",
    "Past it, or no card.",
    { reading: once("Salted on", "date") },
  ],
  "couplings-dry": ["Couplings dry", "Dry paper round both.", "Dry.", "A drop or a trace."],
  "present-and-dry": [
    "Present and dry",
    "Find it and feel it.",
    "Found, dry.",
    "Missing, wet, or cannot be found.",
  ],
  "stands-above-the-rim-that-it-guards": [
    "Stands above the rim that it guards",
    "Compare its height with the rim.",
    "Above the rim.",
    "Level with it or below.",
  ],
  "positions-tried-by-flow-not-by-name": [
    "Positions tried by flow, not by name",
    "Open an outlet and try each position.",
    "Does what its mark says.",
    "Marks and flows differ: note what each really does.",
  ],
  "positions-marked": [
    "Positions marked",
    "Read the marks.",
    "Readable, and right.",
    "None, or wrong.",
  ],
  "every-valve-moves-and-holds": [
    "Every valve moves and holds",
    "Each in turn, the outlet it feeds open.",
    "Each shuts its own line off.",
    "One passes or sticks: which is noted.",
  ],
  "every-way-labelled": [
    "Every way labelled",
    "Read the labels.",
    "Each named.",
    "One or more not known.",
  ],
  "temperature-at-the-nearest-tap": [
    "Temperature at the nearest tap",
    "Run the nearest hot tap a minute, thermometer in the stream.",
    "At its setting, not above 50 °C at a hand's tap.",
    "Above it, or swinging.",
    {
      reading: once("At the tap", "temperature"),
      caution: "Hot water scalds: 60 °C burns in seconds.",
    },
  ],
  "screens-clean": ["Screens clean", "Shut off, take them out.", "Clean.", "Scaled or torn."],
  "screen-clean": ["Screen clean", "Take it out, pressure off.", "Clean.", "Blocked or torn."],
  "holds-with-water-behind-it": [
    "Holds with water behind it",
    "A litre behind it, shut, ten minutes.",
    "Nothing passes.",
    "A drop passes.",
  ],
  "position-proved-by-eye-not-by-lamp": [
    "Position proved by eye, not by lamp",
    "Work it and look into the pipe.",
    "Eye and lamp agree.",
    "They differ, or it cannot be seen.",
  ],
  "manual-release-found-and-free": [
    "Manual release found and free",
    "Find it and turn it once.",
    "Found, turns.",
    "Not found, or seized.",
  ],
  "fuse-found": [
    "Fuse found",
    "Find and read it.",
    "Found, right rating.",
    "Not found, or bridged.",
  ],
  "stops-when-every-tap-is-shut": [
    "Stops when every tap is shut",
    "All taps shut, listen for a minute.",
    "Stops within seconds and stays off.",
    "Runs on or starts again: a leak, or air.",
  ],
  "mounts-firm": ["Mounts firm", "Push it.", "Firm, rubber whole.", "Loose, or shaking its pipes."],
  "mount-firm": ["Mount firm", "Push it.", "Firm.", "Loose."],
  "polarity-right-by-meter": [
    "Polarity right by meter",
    "Meter at its plug, pump switched on: red probe on the lead taken for positive.",
    "The meter says plus, 11 V or more.",
    "Minus, or under 11 V: colours prove nothing.",
    { reading: once("At its plug, running", "volts") },
  ],
  "seams-and-fittings-dry": [
    "Seams and fittings dry",
    "Lamp and hand along every seam, tank full.",
    "Dry.",
    "Damp, a trail, a salt edge.",
  ],
  "vent-clear": [
    "Vent clear",
    "Blow gently into it, or watch while the tank fills.",
    "Air passes.",
    "Blocked: the tank bulges or fills slowly.",
  ],
  "strapped-on-a-membrane": [
    "Strapped, on a membrane",
    "Push it, look below.",
    "Does not move, lies on a membrane.",
    "Moves, or lies on bare timber.",
  ],
  "cap-seals": [
    "Cap seals",
    "Look at its seal, close it wet.",
    "Whole, closes tight.",
    "Gone, hard or cross-threaded.",
  ],
  "hose-marked-for-drinking-water": [
    "Hose marked for drinking water",
    "Read the hose.",
    "Marked for drinking water.",
    "Garden hose, or no mark.",
  ],
  "inlet-screen-clean": [
    "Inlet screen clean",
    "Shut off, pressure off, take it out.",
    "Clean.",
    "Scaled or torn.",
    { caution: HEATER_OFF },
  ],
  "drain-and-relief-levers-move": [
    "Drain and relief levers move",
    "Lift each a moment.",
    "Move and seat again.",
    "Stick, or drip afterwards.",
    { caution: HEATER_OFF },
  ],
  "flue-clear": [
    "Flue clear",
    "Lamp into it.",
    "Clear, no soot.",
    "Nest, soot or rust: not to be lit; a licensed gas fitter looks at it.",
  ],
  "relief-valve-lifts-and-seats": [
    "Relief valve lifts and seats",
    "Lift it a moment, a bucket below.",
    "Gives water and shuts again.",
    "Sticks, or drips afterwards.",
    { caution: HEATER_OFF },
  ],
  "plug-and-cable-sound": [
    "Plug and cable sound",
    "Look along the cable, unplugged.",
    "Whole, no browning.",
    "Browned, cracked or taped: a licensed electrician.",
  ],
  "label-capacity-read": [
    "Label capacity read",
    "Read the label.",
    "Read, and as drawn.",
    "Differs from the map: correct it.",
  ],
  "plug-threads-clean": [
    "Plug threads clean",
    "Pull it empty and cold, brush and look.",
    "Clean, runs in by hand. Plastic 15/16 in, no rod; steel 1-1/16 in (27 mm), with a rod.",
    "Scaled or crossed.",
    { caution: HEATER_OFF },
  ],
  "anode-thickness-at-three-places": [
    "Anode thickness at three places",
    "Wipe the rod; calliper near the plug, in the middle and at the end. The thinnest counts.",
    "More than half its first thickness left everywhere.",
    "Half or less: a quarter of its metal or less; or the core wire shows.",
    { reading: { label: "Thickness", is: "length", times: 3 }, caution: HEATER_OFF },
  ],
  "opens-and-seals": [
    "Opens and seals",
    "Open it over a cup, shut it.",
    "Runs, then holds.",
    "Blocked, or drips.",
  ],
  "not-blocked": ["Not blocked", "Open it.", "Runs freely.", "A trickle: cleared from below."],
  "aerator-clean": [
    "Aerator clean",
    "Screw it off.",
    "Clean.",
    "Grit or scale: what it is is worth a note.",
  ],
  "no-drip": ["No drip", "Shut it, a dry finger below, a minute.", "Dry.", "A drop."],
  flow: ["Flow", "Open it fully.", "A steady stream.", "Weak or spitting."],
  "flow-hot-and-cold": [
    "Flow hot and cold",
    "Open each side fully.",
    "Both alike.",
    "One side weak: its valve or the heater's side.",
  ],
  "cap-on-its-thread": ["Cap on its thread", "Look.", "There, and tight by hand.", "Missing."],
  "own-shut-off-works": [
    "Own shut-off works",
    "Shut it, open the outlet.",
    "Nothing comes.",
    "Passes, or not found.",
  ],
  "trigger-shuts": ["Trigger shuts", "Let go.", "Shuts at once.", "Runs on."],
  "hose-sound": [
    "Hose sound",
    "Through the hand over its length.",
    "Whole, not sticky.",
    "Split, kinked or sticky.",
  ],
  "stop-works": ["Stop works", "Shut it.", "Nothing comes.", "Passes."],
  "does-not-pass-from-one-side-to-the-other": [
    "Does not pass from one side to the other",
    "One side pressed, the other's box open.",
    "Nothing comes.",
    "Water comes: two waters join.",
  ],
  "mid-position-tried": [
    "Mid-position tried",
    "Turn it half way.",
    "Known: shuts both, or joins both.",
    "Not known.",
  ],
  "threads-clean": ["Threads clean", "Brush and look.", "Clean.", "Scaled or crossed."],
  clear: ["Clear", "Lamp or breath into it.", "Clear.", "Blocked."],
  "insect-screen-whole": ["Insect screen whole", "Look.", "Whole.", "Torn or gone."],
  "within-its-date": [
    "Within its date",
    "Read its card.",
    "Within its life.",
    "Past it, or no date.",
    { reading: once("Fitted on", "date") },
  ],
  "cap-and-seal-present": ["Cap and seal present", "Look.", "Both there.", "Missing."],
  "cap-present": ["Cap present", "Look.", "There.", "Missing."],
  "marked-waste": ["Marked waste", "Read it.", "Marked.", "Not marked: it can be taken for water."],
  "nothing-behind-it": [
    "Nothing behind it",
    "Loosen it over a bucket, valves shut.",
    "Nothing comes.",
    "Waste comes: a valve passes.",
  ],
  "lugs-whole": ["Lugs whole", "Look.", "Whole.", "Broken."],
  "holds-its-prime": [
    "Holds its prime",
    "Work it, wait a minute, work it again.",
    "Gives at the first stroke.",
    "Draws air first.",
  ],
  "diaphragm-sound": [
    "Diaphragm sound",
    "Look from below while it is worked.",
    "Whole.",
    "Cracked or weeping.",
  ],
  "precharge-with-the-water-pressure-at-zero": [
    "Precharge with the water pressure at zero",
    "Pump off, a tap open, gauge on its valve.",
    "At the pump's cut-in or a little under.",
    "Lower, or nothing.",
    { reading: once("Precharge", "pressure") },
  ],
  "no-water-at-its-air-valve": [
    "No water at its air valve",
    "Press the valve a moment.",
    "Air.",
    "Water: the bladder has gone.",
  ],
  "both-taps-shut-when-its-head-is-shut": [
    "Both taps shut when its head is shut",
    "Look at both handles.",
    "Both shut.",
    "Open: cold crosses into the hot side through it.",
  ],
  "flap-seals": ["Flap seals", "Close it on paper.", "Holds the paper.", "Does not."],
  "fitting-and-clip-sound": [
    "Fitting and clip sound",
    "Look and push.",
    "Sound.",
    "Corroded or single-clipped.",
  ],
  "setting-static-and-flowing": [
    "Setting, static and flowing",
    "Gauge after it, taps shut, then one tap open.",
    "40 to 60 psi still, and not under six tenths of that flowing.",
    "Above, or falls away.",
    { reading: { label: "Pressure, still then flowing", is: "pressure", times: 2 } },
  ],
  "static-and-flowing-pressure-read": [
    "Static and flowing pressure read",
    "Gauge on the post, shut, then one tap open in the unit.",
    "Read.",
    "Above 80 psi, or above the weakest part: never without a regulator.",
    { reading: { label: "Pressure, still then flowing", is: "pressure", times: 2 } },
  ],
  "nothing-comes-out-with-the-pump-on": [
    "Nothing comes out with the pump on",
    "Cap off, pump on.",
    "Dry.",
    "Water comes: no check, or one that passes.",
  ],
  "head-clean": ["Head clean", "Unscrew and look.", "Clean.", "Scaled."],
  "seal-holds-water": [
    "Seal holds water",
    "A cup of water in the bowl, ten minutes.",
    "Stays.",
    "Runs away.",
  ],
  "flush-valve-shuts": ["Flush valve shuts", "Let go.", "Shuts at once.", "Runs on."],
  "breaker-dry": ["Breaker dry", "Feel it.", "Dry.", "Wet."],
  "not-dry-inside": [
    "Not dry inside",
    "Lamp into it.",
    "Water stands in it.",
    "Dry: smell comes up.",
  ],
  "dump-valve-moves-and-holds": [
    "Dump valve moves and holds",
    "Work it, cap on.",
    "Moves, nothing behind the cap.",
    "Stiff, or passes.",
  ],
  "vacuum-breaker-found-and-dry": [
    "Vacuum breaker found and dry",
    "Behind a panel above the toilet's rim, as a rule.",
    "Found, dry.",
    "Not found, or wet.",
  ],
  "used-with-the-dump-valve-watched": [
    "Used with the dump valve watched",
    "Ask.",
    "Known.",
    "Not known: a full tank bursts.",
  ],
  "hose-double-clipped": ["Hose double clipped", "Look.", "Two clips, sound.", "One, or rusted."],
  "no-green-or-pink-metal": [
    "No green or pink metal",
    "Scratch the metal.",
    "Bright yellow.",
    "Pink: it has lost its zinc and breaks.",
  ],
  "grating-clear": ["Grating clear", "From outside, or by flow.", "Clear.", "Weed or shell."],
  "tap-shuts": ["Tap shuts", "Shut it.", "Nothing comes.", "Drips."],
  "foam-and-cable-whole-where-fitted": [
    "Foam and cable whole where fitted",
    "Along its length, unplugged.",
    "Whole, not crossed over itself.",
    "Bare, crossed or browned.",
  ],
  "cap-and-washer-present": [
    "Cap and washer present",
    "Look.",
    "Both there.",
    "Missing: the pump draws air.",
  ],
  "joker-valve-not-stiff-with-scale": [
    "Joker valve not stiff with scale",
    "Pump it dry and bend its lips.",
    "Soft.",
    "Stiff or white.",
  ],
  "loops-vented": [
    "Loops vented",
    "Find the vent of each loop.",
    "Found, clear.",
    "None, or blocked: it siphons.",
  ],
  "seacocks-shut-when-unattended": [
    "Seacocks shut when unattended",
    "Ask, look.",
    "Shut.",
    "Left open.",
  ],
  "line-found-and-tagged": ["Line found and tagged", "Trace it.", "Found, tagged.", "Not found."],
  "solenoid-clicks": [
    "Solenoid clicks",
    "Call for water, listen.",
    "Clicks, water comes.",
    "Silent.",
  ],
  "hoses-within-their-date": [
    "Hoses within their date",
    "Read the hoses.",
    "Within ten years.",
    "Past it, or no date.",
    { reading: once("Made on", "date") },
  ],
  "hose-within-its-date": [
    "Hose within its date",
    "Read the hose.",
    "Within ten years.",
    "Past it, or no date.",
    { reading: once("Made on", "date") },
  ],
  "pump-out-runs": ["Pump-out runs", "Run it.", "Empties.", "Hums, or leaves water."],
  "sump-clean": ["Sump clean", "Lamp into it.", "Clean.", "Grease or grit."],
};

/** How a point is looked at, by its id; one that this version does not know is looked at as its id says. */
export const lookFor = (id: string): Look & { readonly point: string } => {
  const row = Object.hasOwn(ROWS, id) ? ROWS[id] : undefined;
  if (!row)
    return {
      point: id.replaceAll("-", " "),
      how: "Look.",
      passes: "As it should be.",
      fails: "Not so.",
    };
  const [point, how, passes, fails, more] = row;
  return { point, how, passes, fails, ...more };
};

/** Points that have words of their own. */
export const KNOWN_LOOKS: ReadonlySet<string> = new Set(Object.keys(ROWS));
