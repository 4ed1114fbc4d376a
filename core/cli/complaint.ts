/** Something the caller did that cannot be done; printed as one sentence. */
export class Complaint extends Error {}
