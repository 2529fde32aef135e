/** What of an element's look a picture that stands alone has to carry along. */
const LOOK = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-opacity',
  'opacity',
  'font-size',
  'font-family',
];

/** Pixels of the picture for each of the page. */
const SHARPNESS = 2;

/**
 * Saves a chart as PNG, in the colours it has on the page.
 *
 * @param svg - As it is drawn.
 * @param background - Any CSS colour.
 */
export async function savePicture(svg: SVGSVGElement, background: string, name: string): Promise<void> {
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  const url = URL.createObjectURL(new Blob([standingAlone(svg, width, height)], { type: 'image/svg+xml' }));
  try {
    image.src = url;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = width * SHARPNESS;
    canvas.height = height * SHARPNESS;
    const context = canvas.getContext('2d');
    if (!context) return;
    context.fillStyle = background;
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    const link = document.createElement('a');
    link.href = canvas.toDataURL('image/png');
    link.download = name;
    link.click();
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** The drawing with its colours written into it: a style sheet stays behind. */
function standingAlone(svg: SVGSVGElement, width: number, height: number): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [drawn, copied] = [svg, copy].map((root) => [root, ...root.querySelectorAll<SVGElement>('*')]);
  drawn!.forEach((element, index) => {
    const look = getComputedStyle(element);
    for (const property of LOOK) copied![index]!.style.setProperty(property, look.getPropertyValue(property));
  });
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  return new XMLSerializer().serializeToString(copy);
}
