declare module 'psychrolib' {
  const psychrolib: {
    SI: number;
    SetUnitSystem(system: number): void;
    /** °C from °C and a ratio 0–1. */
    GetTDewPointFromRelHum(temperature: number, humidity: number): number;
    GetTDewPointFromVapPres(temperature: number, pascals: number): number;
  };
  export default psychrolib;
}
