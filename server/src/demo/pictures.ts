import sharp from "sharp";

/** Invented pictures: drawn, not taken. */

const frame = (body: string): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900"><defs><linearGradient id="g" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#8d9a95"/><stop offset="1" stop-color="#4c5854"/></linearGradient></defs><rect width="1200" height="900" fill="url(#g)"/>${body}</svg>`,
  );

const DRAWN: Readonly<Record<string, string>> = {
  bowl: '<ellipse cx="600" cy="300" rx="260" ry="60" fill="#2f3a37"/><path d="M350 300V640q0 120 250 120t250-120V300" fill="#cfe0e6" opacity=".85"/><path d="M520 330l30 90-40 60 50 110M640 340l-20 80 40 70" stroke="#5a6b70" stroke-width="7" fill="none"/><ellipse cx="600" cy="300" rx="260" ry="60" fill="none" stroke="#1d2522" stroke-width="18"/>',
  hose: '<path d="M80 700C360 720 380 380 640 420S980 560 1130 240" stroke="#22384a" stroke-width="120" fill="none"/><path d="M80 700C360 720 380 380 640 420S980 560 1130 240" stroke="#3f6687" stroke-width="70" fill="none"/><path d="M600 372l50 34-30 30 60 44" stroke="#0d151b" stroke-width="14" fill="none"/>',
  valve:
    '<rect x="120" y="420" width="960" height="110" rx="30" fill="#9a7b3c"/><rect x="470" y="360" width="260" height="230" rx="34" fill="#b08d47"/><rect x="560" y="180" width="80" height="190" fill="#7d6330"/><rect x="380" y="150" width="440" height="60" rx="28" fill="#8f1f1f"/><path d="M600 590q-14 60 0 90q14-30 0-90" fill="#7fc3ea"/>',
};

export const DEMO_PICTURES = Object.keys(DRAWN);

export const drawPicture = async (
  name: string,
): Promise<{ data: Buffer; width: number; height: number }> => {
  const { data, info } = await sharp(frame(DRAWN[name] ?? ""))
    .jpeg({ quality: 70 })
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
};
