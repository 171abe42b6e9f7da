import type { MeshParcel, MeshPicture, Picture, PictureParcel } from '@filaxis/protocol';

/** A picture as it stands after a parcel. @throws Error when the parcel builds on what is not there. */
export function unpack(parcel: PictureParcel, before: Picture | null): Picture {
  if (parcel.curves === 'same' && !before) throw new Error('The picture builds on curves that are not here.');
  return {
    ...parcel,
    mesh: parcel.mesh && unpackMesh(parcel.mesh, before?.mesh),
    copies: parcel.copies.map((each, i) => ({ ...each, mesh: unpackMesh(each.mesh, before?.copies[i]?.mesh) })),
    curves: parcel.curves === 'same' ? before!.curves : parcel.curves,
  };
}

function unpackMesh({ groups, ...arrays }: MeshParcel, before: MeshPicture | null | undefined): MeshPicture {
  const parts = Object.entries(arrays).map(([name, part]) => {
    if (part !== 'same') return [name, part];
    if (!before) throw new Error(`The picture builds on ${name} that are not here.`);
    return [name, before[name as keyof typeof arrays]];
  });
  return { groups, ...Object.fromEntries(parts) } as MeshPicture;
}

/** The buffers of a picture or parcel, to be handed over without copying. */
export function buffersOf({ mesh, curves, copies, ghost }: Picture | PictureParcel): ArrayBuffer[] {
  const things = [mesh, ...copies, ...copies.map((each) => each.mesh), curves === 'same' ? null : curves, ghost];
  const arrays = things.flatMap((thing) => (thing ? Object.values(thing) : [])).filter((value) => ArrayBuffer.isView(value));
  return arrays.map(({ buffer }) => buffer as ArrayBuffer);
}
