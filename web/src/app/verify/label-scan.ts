/** The browser's own detector of codes, where it has one. */
interface Detector {
  detect(source: ImageBitmapSource): Promise<{ rawValue: string }[]>;
}
type DetectorClass = new (options: { formats: string[] }) => Detector;

const detectorClass = (): DetectorClass | undefined =>
  (globalThis as { BarcodeDetector?: DetectorClass }).BarcodeDetector;

/** Whether this browser can read our labels with its camera. */
export const scansLabels = (): boolean =>
  detectorClass() !== undefined && typeof navigator.mediaDevices?.getUserMedia === 'function';

/** Our labels carry the link's label, alone or after the last slash of an address. */
export const labelOfCode = (code: string): string => code.trim().split('/').at(-1) ?? '';

const LOOKS = 60;
const BETWEEN_MS = 150;

/** Looks through the camera until a label is read, for some ten seconds; null where none was. */
export async function scanLabel(): Promise<string | null> {
  const Detector = detectorClass();
  if (!Detector) return null;
  const stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
  try {
    const video = document.createElement('video');
    video.srcObject = stream;
    video.muted = true;
    await video.play();
    const detector = new Detector({ formats: ['qr_code'] });
    for (let look = 0; look < LOOKS; look++) {
      const [found] = await detector.detect(video);
      if (found) return labelOfCode(found.rawValue);
      await new Promise((resolve) => setTimeout(resolve, BETWEEN_MS));
    }
    return null;
  } finally {
    for (const track of stream.getTracks()) track.stop();
  }
}
