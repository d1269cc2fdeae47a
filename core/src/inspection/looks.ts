/**
 * How each point of an inspection is looked at. The point's own words stand with the kind of part that has it; here is what the hand
 * does, what passes and what fails. Common practice, no source, where none is named.
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

export interface LookReading {
  readonly label: string;
  readonly is: "length" | "pressure" | "temperature" | "date" | "volts" | "fraction";
  /** How many are taken, as at three places of a rod. */
  readonly times: number;
}

const HEATER_OFF = "Heater off at its switch and breaker, water below 40 °C, pressure off, before a plug is pulled.";
const once = (label: string, is: LookReading["is"]): LookReading => ({ label, is, times: 1 });

type Row = readonly [how: string, passes: string, fails: string, more?: Pick<Look, "reading" | "caution">];

const ROWS: Readonly<Record<string, Row>> = {
  "Moves and holds": [
    "Turn it through its whole way and back; with water behind it shut it and open what follows.",
    "Moves by hand, nothing passes when shut.",
    "Sticks, needs a tool, weeps at its stem or passes when shut.",
  ],
  "Moves freely": ["Work it through its whole way.", "Moves by hand over its whole way.", "Stiff, short of its stop, or bent."],
  "Moves to every mark": ["Turn it to each mark in turn.", "Stops at each and stays there.", "Slips past a mark or will not reach one."],
  "Moves through its whole turn": [
    "Shut and open it once, with the hose beyond it watched.",
    "Turns a full quarter by hand.",
    "Seized, short of its stop, or its handle is gone.",
    { caution: "A seacock that breaks floods the hull: a plug of its size to hand, and never forced below the waterline." },
  ],
  "Joints dry": ["Dry paper round each joint, pump on.", "Paper stays dry.", "A drop, a white or green trace, a stain below."],
  Dry: ["Dry paper round it, pump on.", "Paper stays dry.", "A drop, a trace or a stain below."],
  "Dry both sides": ["Dry paper on both faces of the wall.", "Dry on both.", "Wet or stained on either."],
  "Dry behind the hatch": ["Open the hatch and feel the floor behind.", "Dry.", "Wet, swollen or stained."],
  "Nut tight": ["By hand, then a quarter turn with the tool held.", "Does not move.", "Turns, or its seal is squeezed out."],
  "Edge guarded": ["Look at the cut edge round the pipe.", "Bush or sleeve whole.", "Bare edge against the pipe."],
  "Washer present": ["Undo it dry and look.", "Flat washer seated.", "None, split or rolled."],
  "Hand tight on a clean seat": ["Undo and remake it once.", "Clean seat, tight by hand.", "Needs a tool to stay dry."],
  "Right for both pipes": [
    "Measure both pipes' outsides.",
    "Each side made for its pipe.",
    "One side forced on: half-inch nominal is not 15 mm.",
  ],
  "Still needed": ["Ask what it was for.", "Known, and wanted.", "Nobody knows: trace it before it is trusted."],
  "Look behind it and say what it is": [
    "Trace both sides until each is known.",
    "Known, and drawn on the map.",
    "Not reached: stays not known.",
  ],
  "Holds back when the other side is pressed": [
    "Press the far side and open the near one.",
    "Nothing comes back.",
    "Water comes back, or it cannot be told.",
  ],
  "Cartridge within its date": [
    "Read the date on the cartridge or its card.",
    "Within its life.",
    "Past it, or no date to be found.",
    { reading: once("Fitted on", "date") },
  ],
  "Bowl not crazed": ["Wipe it and hold a lamp behind.", "Clear, no fine lines.", "Fine lines, clouding or a chip at the thread."],
  "Seal sound and greased": [
    "Take it out and run it through the fingers.",
    "Round, whole, greased with a drinking-water grease.",
    "Flat, cut or dry.",
  ],
  "Seal sound": ["Take it out and run it through the fingers.", "Round and whole.", "Flat, cut or missing."],
  "Mesh clean": ["Open the bowl, pump off.", "Clean mesh, no tear.", "Blocked or torn: what was in it is worth a note."],
  "Hardness after it": ["Test strip at the next outlet.", "Soft as its maker says.", "As hard as before it."],
  "Salted within its date": ["Read its card.", "Within the interval.", "Past it, or no card.", { reading: once("Salted on", "date") }],
  "Couplings dry": ["Dry paper round both.", "Dry.", "A drop or a trace."],
  "Present and dry": ["Find it and feel it.", "Found, dry.", "Missing, wet, or cannot be found."],
  "Stands above the rim that it guards": ["Compare its height with the rim.", "Above the rim.", "Level with it or below."],
  "Positions tried by flow, not by name": [
    "Open an outlet and try each position.",
    "Does what its mark says.",
    "Marks and flows differ: note what each really does.",
  ],
  "Positions marked": ["Read the marks.", "Readable, and right.", "None, or wrong."],
  "Every valve moves and holds": [
    "Each in turn, the outlet it feeds open.",
    "Each shuts its own line off.",
    "One passes or sticks: which is noted.",
  ],
  "Every way labelled": ["Read the labels.", "Each named.", "One or more not known."],
  "Temperature at the nearest tap": [
    "Run the nearest hot tap a minute, thermometer in the stream.",
    "At its setting, not above 50 °C at a hand's tap.",
    "Above it, or swinging.",
    { reading: once("At the tap", "temperature"), caution: "Hot water scalds: 60 °C burns in seconds." },
  ],
  "Screens clean": ["Shut off, take them out.", "Clean.", "Scaled or torn."],
  "Screen clean": ["Take it out, pressure off.", "Clean.", "Blocked or torn."],
  "Holds with water behind it": ["A litre behind it, shut, ten minutes.", "Nothing passes.", "A drop passes."],
  "Position proved by eye, not by lamp": ["Work it and look into the pipe.", "Eye and lamp agree.", "They differ, or it cannot be seen."],
  "Manual release found and free": ["Find it and turn it once.", "Found, turns.", "Not found, or seized."],
  "Fuse found": ["Find and read it.", "Found, right rating.", "Not found, or bridged."],
  "Stops when every tap is shut": [
    "All taps shut, listen for a minute.",
    "Stops within seconds and stays off.",
    "Runs on or starts again: a leak, or air.",
  ],
  "Mounts firm": ["Push it.", "Firm, rubber whole.", "Loose, or shaking its pipes."],
  "Mount firm": ["Push it.", "Firm.", "Loose."],
  "Polarity right by meter": [
    "Meter at its plug, pump switched on: red probe on the lead taken for positive.",
    "The meter says plus, 11 V or more.",
    "Minus, or under 11 V: colours prove nothing.",
    { reading: once("At its plug, running", "volts") },
  ],
  "Seams and fittings dry": ["Lamp and hand along every seam, tank full.", "Dry.", "Damp, a trail, a salt edge."],
  "Vent clear": ["Blow gently into it, or watch while the tank fills.", "Air passes.", "Blocked: the tank bulges or fills slowly."],
  "Strapped, on a membrane": ["Push it, look below.", "Does not move, lies on a membrane.", "Moves, or lies on bare timber."],
  "Cap seals": ["Look at its seal, close it wet.", "Whole, closes tight.", "Gone, hard or cross-threaded."],
  "Hose marked for drinking water": ["Read the hose.", "Marked for drinking water.", "Garden hose, or no mark."],
  "Inlet screen clean": ["Shut off, pressure off, take it out.", "Clean.", "Scaled or torn.", { caution: HEATER_OFF }],
  "Drain and relief levers move": ["Lift each a moment.", "Move and seat again.", "Stick, or drip afterwards.", { caution: HEATER_OFF }],
  "Flue clear": ["Lamp into it.", "Clear, no soot.", "Nest, soot or rust: not to be lit; a licensed gas fitter looks at it."],
  "Relief valve lifts and seats": [
    "Lift it a moment, a bucket below.",
    "Gives water and shuts again.",
    "Sticks, or drips afterwards.",
    { caution: HEATER_OFF },
  ],
  "Plug and cable sound": ["Look along the cable, unplugged.", "Whole, no browning.", "Browned, cracked or taped: a licensed electrician."],
  "Label capacity read": ["Read the label.", "Read, and as drawn.", "Differs from the map: correct it."],
  "Plug threads clean": [
    "Pull it empty and cold, brush and look.",
    "Clean, runs in by hand. Plastic 15/16 in, no rod; steel 1-1/16 in (27 mm), with a rod.",
    "Scaled or crossed.",
    { caution: HEATER_OFF },
  ],
  "Anode thickness at three places": [
    "Wipe the rod; calliper near the plug, in the middle and at the end. The thinnest counts.",
    "More than half its first thickness left everywhere.",
    "Half or less: a quarter of its metal or less; or the core wire shows.",
    { reading: { label: "Thickness", is: "length", times: 3 }, caution: HEATER_OFF },
  ],
  "Opens and seals": ["Open it over a cup, shut it.", "Runs, then holds.", "Blocked, or drips."],
  "Not blocked": ["Open it.", "Runs freely.", "A trickle: cleared from below."],
  "Aerator clean": ["Screw it off.", "Clean.", "Grit or scale: what it is is worth a note."],
  "No drip": ["Shut it, a dry finger below, a minute.", "Dry.", "A drop."],
  Flow: ["Open it fully.", "A steady stream.", "Weak or spitting."],
  "Flow hot and cold": ["Open each side fully.", "Both alike.", "One side weak: its valve or the heater's side."],
  "Cap on its thread": ["Look.", "There, and tight by hand.", "Missing."],
  "Own shut-off works": ["Shut it, open the outlet.", "Nothing comes.", "Passes, or not found."],
  "Trigger shuts": ["Let go.", "Shuts at once.", "Runs on."],
  "Hose sound": ["Through the hand over its length.", "Whole, not sticky.", "Split, kinked or sticky."],
  "Stop works": ["Shut it.", "Nothing comes.", "Passes."],
  "Does not pass from one side to the other": [
    "One side pressed, the other's box open.",
    "Nothing comes.",
    "Water comes: two waters join.",
  ],
  "Mid-position tried": ["Turn it half way.", "Known: shuts both, or joins both.", "Not known."],
  "Threads clean": ["Brush and look.", "Clean.", "Scaled or crossed."],
  Clear: ["Lamp or breath into it.", "Clear.", "Blocked."],
  "Insect screen whole": ["Look.", "Whole.", "Torn or gone."],
  "Within its date": ["Read its card.", "Within its life.", "Past it, or no date.", { reading: once("Fitted on", "date") }],
  "Cap and seal present": ["Look.", "Both there.", "Missing."],
  "Cap present": ["Look.", "There.", "Missing."],
  "Marked waste": ["Read it.", "Marked.", "Not marked: it can be taken for water."],
  "Nothing behind it": ["Loosen it over a bucket, valves shut.", "Nothing comes.", "Waste comes: a valve passes."],
  "Lugs whole": ["Look.", "Whole.", "Broken."],
  "Holds its prime": ["Work it, wait a minute, work it again.", "Gives at the first stroke.", "Draws air first."],
  "Diaphragm sound": ["Look from below while it is worked.", "Whole.", "Cracked or weeping."],
  "Precharge with the water pressure at zero": [
    "Pump off, a tap open, gauge on its valve.",
    "At the pump's cut-in or a little under.",
    "Lower, or nothing.",
    { reading: once("Precharge", "pressure") },
  ],
  "No water at its air valve": ["Press the valve a moment.", "Air.", "Water: the bladder has gone."],
  "Both taps shut when its head is shut": ["Look at both handles.", "Both shut.", "Open: cold crosses into the hot side through it."],
  "Flap seals": ["Close it on paper.", "Holds the paper.", "Does not."],
  "Fitting and clip sound": ["Look and push.", "Sound.", "Corroded or single-clipped."],
  "Setting, static and flowing": [
    "Gauge after it, taps shut, then one tap open.",
    "40 to 60 psi still, and not under six tenths of that flowing.",
    "Above, or falls away.",
    { reading: { label: "Pressure, still then flowing", is: "pressure", times: 2 } },
  ],
  "Static and flowing pressure read": [
    "Gauge on the post, shut, then one tap open in the unit.",
    "Read.",
    "Above 80 psi, or above the weakest part: never without a regulator.",
    { reading: { label: "Pressure, still then flowing", is: "pressure", times: 2 } },
  ],
  "Nothing comes out with the pump on": ["Cap off, pump on.", "Dry.", "Water comes: no check, or one that passes."],
  "Head clean": ["Unscrew and look.", "Clean.", "Scaled."],
  "Seal holds water": ["A cup of water in the bowl, ten minutes.", "Stays.", "Runs away."],
  "Flush valve shuts": ["Let go.", "Shuts at once.", "Runs on."],
  "Breaker dry": ["Feel it.", "Dry.", "Wet."],
  "Not dry inside": ["Lamp into it.", "Water stands in it.", "Dry: smell comes up."],
  "Dump valve moves and holds": ["Work it, cap on.", "Moves, nothing behind the cap.", "Stiff, or passes."],
  "Vacuum breaker found and dry": ["Behind a panel above the toilet's rim, as a rule.", "Found, dry.", "Not found, or wet."],
  "Used with the dump valve watched": ["Ask.", "Known.", "Not known: a full tank bursts."],
  "Hose double clipped": ["Look.", "Two clips, sound.", "One, or rusted."],
  "No green or pink metal": ["Scratch the metal.", "Bright yellow.", "Pink: it has lost its zinc and breaks."],
  "Grating clear": ["From outside, or by flow.", "Clear.", "Weed or shell."],
  "Tap shuts": ["Shut it.", "Nothing comes.", "Drips."],
  "Foam and cable whole where fitted": ["Along its length, unplugged.", "Whole, not crossed over itself.", "Bare, crossed or browned."],
  "Cap and washer present": ["Look.", "Both there.", "Missing: the pump draws air."],
  "Joker valve not stiff with scale": ["Pump it dry and bend its lips.", "Soft.", "Stiff or white."],
  "Loops vented": ["Find the vent of each loop.", "Found, clear.", "None, or blocked: it siphons."],
  "Seacocks shut when unattended": ["Ask, look.", "Shut.", "Left open."],
  "Line found and tagged": ["Trace it.", "Found, tagged.", "Not found."],
  "Solenoid clicks": ["Call for water, listen.", "Clicks, water comes.", "Silent."],
  "Hoses within their date": ["Read the hoses.", "Within ten years.", "Past it, or no date.", { reading: once("Made on", "date") }],
  "Hose within its date": ["Read the hose.", "Within ten years.", "Past it, or no date.", { reading: once("Made on", "date") }],
  "Pump-out runs": ["Run it.", "Empties.", "Hums, or leaves water."],
  "Sump clean": ["Lamp into it.", "Clean.", "Grease or grit."],
};

/** How a point is looked at; a point without words of its own is looked at as it says. */
export const lookFor = (point: string): Look => {
  const row = ROWS[point];
  if (!row) return { how: "Look.", passes: point, fails: "Not so." };
  const [how, passes, fails, more] = row;
  return { how, passes, fails, ...more };
};

/** Points that have words of their own. */
export const KNOWN_LOOKS: ReadonlySet<string> = new Set(Object.keys(ROWS));
