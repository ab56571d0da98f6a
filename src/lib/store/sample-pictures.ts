/** The pictures of a sample's presets and kept variations: they come beside its file, as a zip of pictures by their ids. */
import { unzipSync } from 'fflate';
import type { GeneratorDocument } from '$core/engine/document';
import { hashBytes } from '$core/formats/package-file';
import type { Opened } from './opened';

/** A sample with its pictures; as it was where they cannot be read. */
export function withPictures(opened: Opened, zip: Uint8Array): Opened {
	let files: Record<string, Uint8Array>;
	try {
		files = unzipSync(zip);
	} catch {
		return opened;
	}
	const assets = [...opened.assets];
	const known: GeneratorDocument['assets'] = { ...opened.document.assets };
	const pictured = <Row extends { id: string }>(row: Row): Row => {
		const bytes = files[`${row.id}.webp`];
		if (!bytes) return row;
		const hash = hashBytes(bytes);
		if (!Object.hasOwn(known, hash)) assets.push({ hash, name: 'picture.webp', bytes });
		known[hash] = { name: 'picture.webp', bytes: bytes.length };
		return { ...row, picture: hash };
	};
	const { document } = opened;
	const presets = document.presets.map(pictured);
	const kept = document.kept.map(pictured);
	return { ...opened, assets, document: { ...document, presets, kept, assets: known } };
}
