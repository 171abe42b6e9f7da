import { CanvasTexture, RepeatWrapping, SRGBColorSpace } from 'three';

/** Texels along one side of the texture that the checker stands for. */
export const checkerTexels = 1024;

/**
 * Squares of two colours, four a tile each way; one tile is one UV unit. Each square has its texel size written on it, as of a texture of
 * `checkerTexels`, and a stroke under the writing, so that turned and mirrored UVs are seen.
 */
export function checkerTexture(): CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 512;
  const brush = canvas.getContext('2d')!;
  const square = canvas.width / 4;
  brush.textAlign = 'center';
  brush.textBaseline = 'middle';
  for (let y = 0; y < 4; y++)
    for (let x = 0; x < 4; x++) {
      const dark = (x + y) % 2 === 1;
      brush.fillStyle = dark ? '#2b3453' : '#f1e8d6';
      brush.fillRect(x * square, y * square, square, square);
      brush.fillStyle = dark ? '#8b93b4' : '#b9a98a';
      brush.font = `600 ${square * 0.32}px "Atkinson Hyperlegible Next Variable", sans-serif`;
      brush.fillText(String(checkerTexels / 4), (x + 0.5) * square, (y + 0.5) * square);
      brush.fillRect((x + 0.2) * square, (y + 0.74) * square, square * 0.6, square * 0.03);
    }
  const texture = new CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 8;
  return texture;
}
