/** Writes the demo documents, all of Marrow Sound, to `demo/documents`. Run by `npm run demo`. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { beaconCage } from './beacon-cage.js';
import { bollardLashing } from './bollard-lashing.js';
import { clinkerDinghy } from './clinker-dinghy.js';
import { deckHose } from './deck-hose.js';
import { duneRopeWalk } from './dune-rope-walk.js';
import { lampCable } from './lamp-cable.js';
import { mooringChain } from './mooring-chain.js';
import { paddockFence } from './paddock-fence.js';
import { pumpHousePipes } from './pump-house-pipes.js';
import { quayRailRopes } from './quay-rail-ropes.js';
import { scaleLeanTo } from './scale-lean-to.js';

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
  'paddock-fence': paddockFence,
};
for (const [name, make] of Object.entries(documents)) writeFileSync(resolve(folder, `${name}.json`), `${JSON.stringify(make(), null, 2)}\n`);
console.log(`Wrote ${Object.keys(documents).length} documents.`);
