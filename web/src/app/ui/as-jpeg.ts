/** Longer sides are made no longer than this. */
const LONGEST_PX = 1280;
/** So large may a photo be that is sent. */
const MOST_BYTES = 640_000;
const QUALITIES = [0.82, 0.7, 0.55, 0.4];

/**
 * A picture drawn anew, no larger than is needed, as base64 of a JPEG: what a camera wrote beside it stays behind.
 *
 * @throws where the browser cannot read it as a picture
 */
export async function asJpeg(file: Blob): Promise<string> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  let jpeg = '';
  for (const quality of QUALITIES) {
    jpeg = canvas.toDataURL('image/jpeg', quality).split(',')[1] ?? '';
    if ((jpeg.length * 3) / 4 <= MOST_BYTES) break;
  }
  return jpeg;
}
