/** Reading codes with a camera: by the browser itself where it can, by a reader that comes along where it cannot. */

/** Looks at a video as it stands; the text of a code, or null where none is seen. */
export type Look = (from: HTMLVideoElement) => Promise<string | null>;

interface Detector {
  detect: (from: HTMLVideoElement) => Promise<{ rawValue: string }[]>;
}

/** Cameras are kept from pages that came by plain HTTP over a network. */
export const hasCamera = (): boolean => !!navigator.mediaDevices?.getUserMedia;

/** A reader, loaded only when somebody asks for it. */
export async function codeReader(): Promise<Look> {
  const make = (window as unknown as { BarcodeDetector?: new (o: { formats: string[] }) => Detector }).BarcodeDetector;
  if (make) {
    const own = new make({ formats: ["qr_code"] });
    return async (from) => (await own.detect(from))[0]?.rawValue ?? null;
  }
  const [{ prepareZXingModule, readBarcodes }, { default: address }] = await Promise.all([import("zxing-wasm/reader"), import("zxing-wasm/reader/zxing_reader.wasm?url")]);
  prepareZXingModule({ overrides: { locateFile: () => address } });
  const canvas = document.createElement("canvas");
  return async (from) => {
    if (from.videoWidth === 0) return null;
    canvas.width = from.videoWidth;
    canvas.height = from.videoHeight;
    const ink = canvas.getContext("2d", { willReadFrequently: true })!;
    ink.drawImage(from, 0, 0);
    const found = await readBarcodes(ink.getImageData(0, 0, canvas.width, canvas.height), { formats: ["QRCode"] });
    return found.find((f) => f.isValid)?.text ?? null;
  };
}
