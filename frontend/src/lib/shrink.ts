const EDGE = 1600;
const QUALITY = 0.85;

/**
 * A picture made small on the device, before anything of it is sent: upright, 1,600 pixels at the most, JPEG. What the
 * camera writes into it (place, time, device) stays behind.
 */
export async function shrink(file: Blob): Promise<Blob> {
  const image = await createImageBitmap(file, { imageOrientation: "from-image" });
  try {
    const scale = Math.min(1, EDGE / Math.max(image.width, image.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(image.width * scale));
    canvas.height = Math.max(1, Math.round(image.height * scale));
    const pen = canvas.getContext("2d");
    if (!pen) return file;
    pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise((done) => canvas.toBlob((made) => done(made ?? file), "image/jpeg", QUALITY));
  } finally {
    image.close();
  }
}
