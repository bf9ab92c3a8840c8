import { oklch, wcagContrast } from 'culori';
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { hues, tints } from './tagLook';

const styles = readFileSync('src/styles.css', 'utf8');
/** A colour of the style sheet on light and on dark paper. */
function colourOf(name: string): [light: string, dark: string] {
  const [, light, dark] = new RegExp(`--${name}: light-dark\\((#\\w+), (#\\w+)\\)`).exec(styles)!;
  return [light!, dark!];
}

// WCAG 2.2, success criterion 1.4.11: what is needed to understand a graphic stands out from what is beside it by 3 to 1. Contrasts are those of the culori package.
it('threads, lanes and frames of every tag, and of every tag under it, stand out from both papers', () => {
  const weak: string[] = [];
  for (let hue = 0; hue < hues; hue++)
    for (const [child, [lightness, turn]] of tints.entries())
      for (const scheme of [0, 1] as const)
        for (const ground of ['paper', 'case']) {
          const own = oklch(colourOf(`tag-${hue}`)[scheme])!;
          const contrast = wcagContrast({ ...own, l: own.l + lightness, h: (own.h ?? 0) + turn }, colourOf(ground)[scheme]);
          if (contrast < 3) weak.push(`tag-${hue}, child ${child}, on ${ground} ${scheme}: ${contrast.toFixed(2)}`);
        }
  expect(weak).toEqual([]);
});
