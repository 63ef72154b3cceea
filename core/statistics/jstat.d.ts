/** The few functions of jStat that are used here; the package ships no types of its own. */
declare module "jstat" {
  const jStat: {
    gammaln(x: number): number;
    studentt: { cdf(x: number, dof: number): number };
    chisquare: { inv(p: number, dof: number): number };
  };
  export default jStat;
}
