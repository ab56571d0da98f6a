/** An imported file, already read: its bytes by hash. */
export interface Asset {
	readonly hash: string;
	readonly name: string;
	readonly bytes: Uint8Array;
}
