/** Numbers that several stages share. */

/** A sharp edge has at least this angle between its faces' normals, in degrees, on smoothed normals. */
export const FEATURE_ANGLE = 40;

/** A corner with a lower scaled Jacobian is straight: no quad of any use. */
export const STRAIGHT = 0.005;

/** Between two arms of a cross, in radians. */
export const QUARTER = Math.PI / 2;

/** A vertex of a cage lies on a sharp edge where it is no farther off than this share of the open edges' length. */
export const ON_SEAM_LINE = 0.1;
