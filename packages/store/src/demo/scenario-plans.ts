/** Brindlemere's scenarios: legs are test codes; `STO-02<FLD-04` waits only for FLD-04; `?Stores: words` is an open leg. */
export interface ScenarioPlan {
  readonly code: string;
  readonly name: string;
  readonly node: string;
  readonly priority: 'high' | 'medium' | 'low';
  readonly legs: string;
  readonly rows: number;
  readonly state?: 'sketch';
  /** How many pieces of what was ordered come. */
  readonly delivers?: number;
}

export const SCENARIO_PLANS: readonly ScenarioPlan[] = [
  {
    code: 'NS-S1',
    name: 'Small business gets a metered supply',
    node: 'NS',
    priority: 'high',
    rows: 6,
    legs: 'CUS-01 FLD-01 BIL-01 FIN-01 FLD-02 STO-01 FLD-03 MET-01 BIL-07',
  },
  {
    code: 'NS-S2',
    name: 'Household gets a metered supply',
    node: 'NS',
    priority: 'high',
    rows: 6,
    legs: 'CUS-01 CUS-02 FLD-01 BIL-01 BIL-04 FIN-01 FLD-02 STO-01 FLD-03 MET-01 CUS-05 BIL-07<MET-01',
  },
  {
    code: 'NS-S3',
    name: 'Developer connects a whole street',
    node: 'NS',
    priority: 'medium',
    rows: 5,
    legs: 'CUS-01 FLD-01 BIL-02 FIN-01 FLD-02 STO-01 FLD-03 MET-01 BIL-07 FIN-03',
  },
  {
    code: 'NS-S4',
    name: 'Quote is repriced before it is paid',
    node: 'NS-2',
    priority: 'medium',
    rows: 5,
    legs: 'CUS-01 FLD-01 BIL-01 BIL-03 BIL-04 FIN-01',
  },
  {
    code: 'NS-S5',
    name: 'Applicant walks away after paying',
    node: 'NS-2',
    priority: 'low',
    rows: 5,
    legs: 'CUS-01 FLD-01 BIL-01 FIN-01 CUS-04 FIN-02',
  },
  {
    code: 'NS-S6',
    name: 'Quote lapses after ninety days',
    node: 'NS-2',
    priority: 'low',
    rows: 4,
    legs: 'CUS-01 FLD-01 BIL-01 BIL-04 BIL-05',
  },
  {
    code: 'LR-S1',
    name: 'Burst main is repaired and recharged',
    node: 'LR',
    priority: 'high',
    rows: 6,
    legs: 'CUS-07 FLD-04 FLD-05 STO-02<FLD-04 CUS-10<FLD-04 FLD-06<FLD-05 FLD-07<FLD-06+STO-02+CUS-10 STO-03 BIL-08<FLD-07 BIL-09<STO-03+BIL-08 FIN-04',
  },
  {
    code: 'LR-S2',
    name: 'Driver damages a hydrant',
    node: 'LR',
    priority: 'high',
    rows: 6,
    legs: 'CUS-07 FLD-04 FLD-05 FLD-06 STO-02<FLD-04 FLD-07<FLD-06+STO-02 STO-03 BIL-09 FIN-04',
  },
  {
    code: 'LR-S3',
    name: 'Small leak is mended within a week',
    node: 'LR',
    priority: 'medium',
    rows: 6,
    legs: 'CUS-07 FLD-04 CUS-09 FLD-05<FLD-04 FLD-06 FLD-07 FLD-08',
  },
  {
    code: 'LR-S4',
    name: 'Repair ends with a water quality check',
    node: 'LR-3',
    priority: 'medium',
    rows: 5,
    legs: 'CUS-07 FLD-04 FLD-05 FLD-07 FLD-09 FLD-08',
  },
  {
    code: 'LR-S5',
    name: 'Damage charge is waived',
    node: 'LR-4',
    priority: 'low',
    rows: 4,
    legs: 'CUS-07 FLD-04 FLD-05 STO-02 FLD-07 STO-03 BIL-08 BIL-09 BIL-10',
  },
  {
    code: 'RB-S1',
    name: 'District is read, billed and paid',
    node: 'RB',
    priority: 'high',
    rows: 6,
    legs: 'MET-03 MET-04 BIL-11 BIL-12 BIL-14<BIL-11 FIN-05<BIL-12+BIL-14 FIN-06',
  },
  {
    code: 'RB-S2',
    name: 'Readings are missing and estimated',
    node: 'RB',
    priority: 'medium',
    rows: 5,
    legs: 'MET-03 MET-05 BIL-11 BIL-12 FIN-05',
  },
  {
    code: 'RB-S3',
    name: 'Late payer agrees instalments',
    node: 'RB-3',
    priority: 'medium',
    rows: 5,
    legs: 'MET-03 MET-04 BIL-11 BIL-14 FIN-07 CUS-12',
  },
  {
    code: 'RB-S4',
    name: 'Odd reading holds a bill back',
    node: 'RB-1',
    priority: 'medium',
    rows: 5,
    legs: 'MET-03 MET-06 MET-04 BIL-11 BIL-13',
  },
  {
    code: 'RB-S5',
    name: 'Household overpays and gets it back',
    node: 'RB-3',
    priority: 'low',
    rows: 5,
    legs: 'MET-03 MET-04 BIL-11 FIN-06 FIN-08',
  },
  {
    code: 'MI-S1',
    name: 'Chlorine arrives and is paid for',
    node: 'MI',
    priority: 'high',
    rows: 6,
    legs: 'FLD-10 STO-04 STO-05 STO-06 STO-08 FIN-10<STO-06 FIN-11<STO-08+FIN-10 FIN-12',
  },
  {
    code: 'MI-S2',
    name: 'Delivery falls short',
    node: 'MI-2',
    priority: 'medium',
    rows: 5,
    legs: 'FLD-10 STO-04 STO-05 STO-07 FIN-10 FIN-11',
    delivers: 1,
  },
  {
    code: 'PU-S1',
    name: 'Pump is kept up on plan',
    node: 'PU',
    priority: 'medium',
    rows: 5,
    legs: 'FLD-11 FLD-12 MET-07<FLD-11 STO-09<FLD-12 FLD-13<FLD-12 FLD-14<FLD-13+STO-09 STO-10 FIN-13',
  },
  {
    code: 'PU-S2',
    name: 'Pump fails between two upkeeps',
    node: 'PU',
    priority: 'high',
    rows: 2,
    state: 'sketch',
    legs: 'MET-07 ?Field_crews:Report_a_breakdown FLD-12 FLD-13 ?Stores:Order_an_urgent_part FLD-14 FIN-13',
  },
];
