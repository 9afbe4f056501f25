import * as z from 'zod';

/** A JPEG picture, base64, as it is sent. */
export const jpegPicture = z
  .base64({ error: 'The picture is not base64.' })
  .max(900_000, { error: 'The picture is too large: at most 650 kB.' })
  .refine((text) => text.startsWith('/9j/'), { error: 'The picture is not a JPEG.' });

/** What is known of a photo without its bytes: its digest is of the JPEG as it is kept, without what a camera wrote into it. */
export const photoHead = z.object({
  sha256: z.string().regex(/^[0-9a-f]{64}$/, { error: 'A checksum is 64 hexadecimal digits.' }),
  widthPx: z.int().positive(),
  heightPx: z.int().positive(),
  bytes: z.int().positive(),
});
export type PhotoHead = z.infer<typeof photoHead>;
