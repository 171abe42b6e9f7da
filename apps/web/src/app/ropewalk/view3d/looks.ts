import { DoubleSide, MeshBasicMaterial, MeshLambertMaterial, MeshStandardMaterial, type Material as Drawn, type Texture } from 'three';
import type { Material } from '@filaxis/core';
import { alterShader, markBacks, type Backs } from './backs';

/** Ways to look at surfaces. */
export const looks = {
  shaded: { label: 'Shaded', key: 'S', help: 'Materials in the light.' },
  clay: { label: 'Clay', key: 'K', help: 'One matt grey for everything: form alone.' },
  checker: { label: 'Checker', key: 'U', help: 'Squares as UVs lay them, with the texels of one side.' },
  colour: { label: 'Colour', key: 'C', help: 'An attribute as colour.' },
  parts: { label: 'Parts', key: 'I', help: 'Each part and each copy in a colour of its own.' },
  normals: { label: 'Normals', key: 'B', help: 'Which way faces look: x red, y green, z blue.' },
  depth: { label: 'Depth', key: 'D', help: 'Near is light, far is dark.' },
  ink: { label: 'Ink', key: 'E', help: 'Outlines, borders and sharp edges alone, on paper.' },
} as const;
export type Look = keyof typeof looks;

/** Where colours come from. */
export type Coloured = 'vertices' | 'copies' | 'material';

export interface LookParts {
  readonly look: Look;
  readonly coloured: Coloured;
  readonly backs: Backs;
  /** Whether backs are seen where the file is opened. */
  readonly backsSeen: boolean;
  readonly checker: Texture;
  /** Ink of backs, and the paper of `ink`, as CSS has them. */
  readonly backInk: string;
  readonly paper: string;
  /** Nearest and farthest depth, metres; shared by all, and changed as the eye moves. */
  readonly depths: { readonly value: [number, number] };
}

const clay = '#b3aaa0';
const unknown = '#9f9a92';

/** Surfaces are pushed back a little, so that wires and curves on them are drawn whole. */
const behindLines = { side: DoubleSide, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 } as const;

/** What a surface is drawn with. */
export function surfaceMaterial(material: Material, parts: LookParts): Drawn {
  const made = drawnBy[parts.look](material, parts);
  if (parts.look !== 'ink') markBacks(made, parts.backs, parts.backsSeen, parts.backInk);
  return made;
}

const lit = (settings: ConstructorParameters<typeof MeshStandardMaterial>[0]): Drawn =>
  new MeshStandardMaterial({ ...behindLines, roughness: 1, metalness: 0, ...settings });

/** Shows values in place of light: `code` gives `value`, as it is to be seen. */
function valued(key: string, code: string, depths?: LookParts['depths']): Drawn {
  const made = new MeshLambertMaterial({ ...behindLines, toneMapped: false });
  alterShader(made, key, (shader) => {
    if (depths) shader.uniforms['depths'] = depths;
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', `#include <common>\n${depths ? 'uniform vec2 depths;' : ''}`)
      .replace('#include <opaque_fragment>', `vec3 value = ${code};\noutgoingLight = sRGBTransferEOTF(vec4(value, 1.0)).rgb;\n#include <opaque_fragment>`);
  });
  return made;
}

const colours = (_: Material, { coloured }: LookParts): Drawn =>
  lit({ color: coloured === 'material' ? unknown : '#ffffff', vertexColors: coloured === 'vertices' });

const drawnBy: { readonly [L in Look]: (material: Material, parts: LookParts) => Drawn } = {
  shaded: ({ colour, roughness, metalness, opacity, checker: squared }, { checker }) =>
    lit({ color: squared ? '#ffffff' : colour, map: squared ? checker : null, roughness, metalness, transparent: opacity < 1, opacity }),
  clay: () => lit({ color: clay }),
  checker: (_, { checker }) => lit({ map: checker }),
  colour: colours,
  parts: colours,
  normals: () => valued('normals', 'inverseTransformDirection(normal, viewMatrix) * 0.5 + 0.5'),
  depth: (_, { depths }) => valued('depth', 'vec3(mix(0.97, 0.08, clamp((vViewPosition.z - depths.x) / (depths.y - depths.x), 0.0, 1.0)))', depths),
  ink: (_, { paper }) => new MeshBasicMaterial({ ...behindLines, color: paper, toneMapped: false }),
};
