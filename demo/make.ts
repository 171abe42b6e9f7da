/** Writes the demo documents, all of Marrow Sound, to `demo/documents`. Run by `npm run demo`. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { resolve } from 'node:path';
import { lastValueFrom } from 'rxjs';
import type { FilaxisDocument, GraphNode } from '@filaxis/core';
import { moveNodes } from '../apps/web/src/app/ropewalk/document/edits.js';
import { tidyPlaces } from '../apps/web/src/app/ropewalk/graph/tidy.js';
import { beaconCage } from './beacon-cage.js';
import { bollardLashing } from './bollard-lashing.js';
import { bollardWraps } from './bollard-wraps.js';
import { channelBuoy } from './channel-buoy.js';
import { clinkerDinghy } from './clinker-dinghy.js';
import { deckHose } from './deck-hose.js';
import { duneRopeWalk } from './dune-rope-walk.js';
import { eelgrassBed } from './eelgrass-bed.js';
import { fenderRack } from './fender-rack.js';
import { lampCable } from './lamp-cable.js';
import { mooringChain } from './mooring-chain.js';

import { pumpHousePipes } from './pump-house-pipes.js';
import { quayRailRopes } from './quay-rail-ropes.js';
import { saltCreep } from './salt-creep.js';
import { scaleLeanTo } from './scale-lean-to.js';
import { sheepfold } from './sheepfold.js';
import { seaPea } from './sea-pea.js';

const folder = resolve(import.meta.dirname, 'documents');
mkdirSync(folder, { recursive: true });
const documents = {
  'quay-rail-ropes': quayRailRopes,
  'pump-house-pipes': pumpHousePipes,
  'lamp-cable': lampCable,
  'beacon-cage': beaconCage,
  'scale-lean-to': scaleLeanTo,
  'clinker-dinghy': clinkerDinghy,
  'mooring-chain': mooringChain,
  'deck-hose': deckHose,
  'bollard-lashing': bollardLashing,
  'dune-rope-walk': duneRopeWalk,
  sheepfold: sheepfold,
  'fender-rack': fenderRack,
  'bollard-wraps': bollardWraps,
  'channel-buoy': channelBuoy,
  'sea-pea-on-the-ice-house': seaPea,
  'eelgrass-bed': eelgrassBed,
  'salt-creep-on-the-sluice-gate': saltCreep,
};
/** Nodes that are of the same type as others have names, so that they are told apart: their ids in words. */
function named(document: FilaxisDocument): FilaxisDocument {
  const words = (id: string): string => id.replace(/([a-z])([A-Z0-9])/g, (_, before: string, next: string) => `${before} ${next.toLowerCase()}`).replace(/^./, (letter) => letter.toUpperCase()); // prettier-ignore
  const isOneOfSeveral = ({ id, type }: GraphNode): boolean => document.nodes.some((other) => other.type === type && other.id !== id);
  return { ...document, nodes: document.nodes.map((node) => (isOneOfSeveral(node) ? { ...node, name: words(node.id) } : node)) };
}

/** The width by height of the pane that the graphs are laid out for: that of the Ropewalk at its first size. */
const paneShape = 1.25;
const library = createRequire(import.meta.url)('elkjs/lib/elk-worker.min.js') as { Worker: new () => Worker };

for (const [name, make] of Object.entries(documents)) {
  const document = named(make());
  const { places } = await lastValueFrom(tidyPlaces(document, paneShape, () => Object.assign(new library.Worker(), { terminate: () => undefined })));
  writeFileSync(resolve(folder, `${name}.json`), `${JSON.stringify(moveNodes(document, places!), null, 2)}\n`);
}
console.log(`Wrote ${Object.keys(documents).length} documents.`);
