import { strToU8, Zip, ZipDeflate } from 'fflate';
import { FormatError } from './errors.js';
import { GlbFrames } from './gltfFrames.js';
import { UsdaFrames, type FrameSpan } from './usda.js';
import { asPieces, fittingEndings, isEmptyContent, kindsIn, prepared, writeTo, type Content } from './write.js';
import type { Out, WriteOptions } from './writeOptions.js';

/** A frame as the list in the archive has it. */
interface Listed {
  readonly frame: number;
  readonly seconds: number;
  readonly file: string;
  /** There was nothing at that moment, so nothing is in the file. */
  readonly empty?: true;
}

/** Takes frames one after another. */
export interface FrameWriter {
  /** @throws FormatError when the format cannot hold what is there, naming the frame. */
  add(frame: number, content: Content): Promise<void>;
  /** Writes what belongs behind the last. */
  end(): Promise<void>;
}

/** How frames are written: USD as one file with time samples, binary glTF as one with morph targets where that is asked, all else as an archive with a file for each. */
export const framesEnding = (ending: string, together = false): string => (ending === '.usda' || (together && ending === '.glb') ? ending : '.zip');

export function frameWriter(out: Out, ending: string, name: string, span: FrameSpan, options: WriteOptions = {}): FrameWriter {
  if (framesEnding(ending, options.together) === '.zip') return new FrameArchive(out, ending, name, span, options);
  const called = options.called ?? name;
  const one = ending === '.usda' ? new UsdaFrames(out, called, span, options) : new GlbFrames(out, called, span);
  return {
    add: async (frame, content) => one.add(frame, prepared(asPieces(content, called, options), ending, options)),
    end: async () => one.end(),
  };
}

/** Always the same moment, so that the same frames give the same bytes. */
const moment = new Date(1980, 0, 1);

/**
 * An archive with a file for every frame of an animation, `name.0001.glb` and on, and `frames.json`, which says of each its number and seconds. The file of a frame of which there is nothing
 * holds nothing. Pieces go out as they are made.
 */
class FrameArchive implements FrameWriter {
  private readonly zip: Zip;
  private readonly listed: Listed[] = [];
  private fault: Error | null = null;
  private readonly rate: number;

  constructor(
    out: Out,
    private readonly ending: string,
    private readonly name: string,
    { rate }: FrameSpan,
    private readonly options: WriteOptions,
  ) {
    this.rate = rate;
    this.zip = new Zip((error, bytes) => {
      if (error) this.fault = error;
      else out(bytes);
    });
  }

  async add(frame: number, content: Content): Promise<void> {
    const seconds = frame / this.rate;
    if (!fittingEndings(content).includes(this.ending))
      throw new FormatError(`Frame ${frame}: ${this.ending} cannot hold ${kindsIn(content).join(' and ')}.`, 'format');
    const file = `${this.name}.${frame < 0 ? '-' : ''}${String(Math.abs(frame)).padStart(4, '0')}${this.ending}`;
    const entry = this.begin(file);
    await writeTo((bytes) => entry.push(bytes), this.ending, content, file.slice(0, -this.ending.length), this.options);
    entry.push(new Uint8Array(), true);
    this.listed.push({ frame, seconds, file, ...(isEmptyContent(asPieces(content, '')) && { empty: true }) });
    if (this.fault) throw this.fault;
  }

  /** Writes the list, and the end of the archive. */
  async end(): Promise<void> {
    const entry = this.begin('frames.json');
    entry.push(strToU8(`${JSON.stringify({ rate: this.rate, frames: this.listed }, null, 2)}\n`), true);
    this.zip.end();
    if (this.fault) throw this.fault;
  }

  private begin(name: string): ZipDeflate {
    const entry = new ZipDeflate(name, { level: 4 });
    entry.mtime = moment;
    this.zip.add(entry);
    return entry;
  }
}
