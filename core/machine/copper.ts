/** Rise of copper's resistance about 20 °C (IEC 60028, annealed copper: 0.393 %), per kelvin. */
export const COPPER_PER_K = 0.00393;
