const TIMES = 2;

/** An SVG as PNG, twice as fine as it is shown, on the paper of the page. Rejects where the browser cannot. */
export async function drawPng(svg: string): Promise<Blob> {
  const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = image.naturalWidth * TIMES;
    canvas.height = image.naturalHeight * TIMES;
    const context = canvas.getContext('2d');
    if (!context) throw new Error('There is no canvas to draw on.');
    context.fillStyle = getComputedStyle(document.body).backgroundColor;
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise((resolve, reject) =>
      canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The canvas gave no picture.'))), 'image/png'),
    );
  } finally {
    URL.revokeObjectURL(address);
  }
}
