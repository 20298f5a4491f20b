import type { RequirementKind } from '@kindred-baton/core/requirements/requirement';

export interface RequirementPlan {
  readonly node: string;
  readonly kind: RequirementKind;
  readonly priority: 'high' | 'medium' | 'low';
  readonly title: string;
  /** Tests that serve it; none: a gap. */
  readonly tests: readonly string[];
}

export function readRequirementPlans(): RequirementPlan[] {
  return REQUIREMENT_PLANS.trim()
    .split('\n')
    .map((line) => {
      const [node = '', kind = '', priority = '', title = '', tests = ''] = line.split('|');
      const codes = tests.split(' ').filter((code) => code !== '');
      return { node, kind: kind as RequirementKind, priority: priority as RequirementPlan['priority'], title, tests: codes };
    });
}

/** Node, kind, priority, title, tests that serve it. */
const REQUIREMENT_PLANS = `
NS-1|business|high|An application can be taken in one call|CUS-01
NS-1.1|functional|high|Every application gets its own number|CUS-01
NS-1.1|functional|medium|The wanted date is at least two weeks away|CUS-01 CUS-04
NS-1.2|functional|medium|An address off the main is named as such|CUS-02
NS-1.3|functional|high|The surveyor sees the customer and the address|FLD-01
NS-1.3|functional|high|The measured length goes into the quote untouched|FLD-01 BIL-01
NS-1.4|business|medium|A refusal names its reason|CUS-03
NS-1.4|acceptance|low|A refused customer gets a letter the same day|
NS-2.1|functional|high|The band follows the customer|BIL-01 BIL-02
NS-2.1|functional|high|Pipe over 10 m is charged by the metre|BIL-01
NS-2.1|functional|high|The deposit is half the charge|BIL-01 BIL-02 BIL-03
NS-2.1|functional|medium|A quote is valid for 90 days|BIL-01 BIL-05
NS-2.1|business|medium|A discount never goes below the deposit|BIL-02
NS-2.1|functional|medium|Only Billing may change a price|
NS-2.2|functional|low|A sent quote shows when|BIL-04
NS-2.3|functional|high|A deposit is taken once|FIN-01
NS-2.3|business|high|Money taken is in the ledger the same day|FIN-01
NS-2.4|functional|low|A lapsed quote takes no deposit|BIL-05
NS-2.5|functional|low|A refund equals the deposit|FIN-02
NS-3.1|functional|medium|A fitting is planned only after the deposit|FLD-02
NS-3.2|functional|medium|A meter leaves the store for one job|STO-01
NS-3.3|functional|high|Only the issued meter can be fitted|FLD-03
NS-3.3|functional|high|The first reading is kept with the meter|FLD-03 MET-01
NS-3.4|functional|high|Registering opens one account|MET-01
NS-4.1|business|low|A new customer is welcomed|CUS-05
NS-4.2|functional|medium|The deposit is taken off the connection bill|BIL-06
NS-4.3|functional|high|The first bill begins at the first reading|BIL-07
NS-4.3|acceptance|high|The first bill goes out within a month|BIL-07
NS-4.5|functional|medium|Connection income balances|FIN-03
LR-1.1|business|high|A burst is reported in two minutes|CUS-07
LR-1.2|functional|low|Two reports of one leak make one job|CUS-08
LR-1.3|functional|high|A burst outranks a drip|FLD-04
LR-1.5|functional|low|A false alarm costs no crew hour|
LR-2.1|functional|high|No crew digs without a permit|FLD-05 FLD-06
LR-2.2|performance|high|A job is on the tablet within a minute|FLD-06
LR-2.3|functional|medium|Reserved parts are not given away|STO-02
LR-2.4|acceptance|high|A shut-off street is shown before it is shut|
LR-2.5|business|medium|Households are warned before the water stops|CUS-10
LR-3.1|functional|high|A finished job says its cause|FLD-07
LR-3.2|functional|medium|Used parts leave the stock|STO-03
LR-3.5|acceptance|high|Water is clear before the valve opens|FLD-09
LR-4.2|functional|high|Hours and parts make the charge|BIL-09
LR-4.2|functional|medium|Only what somebody damaged is charged|BIL-08 BIL-09
LR-4.3|functional|medium|A recharge is posted once|FIN-04
LR-4.5|business|low|The insurer gets the papers|
RB-1.1|functional|medium|A round has each meter once|MET-03
RB-1.2|functional|high|A refused reading is named|MET-04
RB-1.2|performance|high|A district of 20,000 readings imports within ten minutes|
RB-1.3|functional|medium|An estimate is marked on the bill|MET-05 BIL-12
RB-1.4|functional|medium|Three times the last reading is questioned|MET-06
RB-2.1|functional|high|A run bills each reading once|BIL-11
RB-2.2|functional|high|The tariff follows the customer|BIL-12
RB-2.3|functional|medium|A held bill is not printed|BIL-13 BIL-14
RB-2.5|functional|high|A run balances in the ledger|FIN-05
RB-3.1|functional|high|A payment finds its bill|FIN-06
RB-3.2|business|medium|No reminder before 30 days|FIN-07
RB-3.3|functional|medium|Instalments add up to the bill|CUS-12
MI-1.2|business|high|Nobody approves their own requisition|STO-04
MI-1.3|functional|medium|The cheapest supplier comes first|STO-05
MI-2.1|functional|high|A delivery is taken against its order|STO-06 STO-07
MI-3.2|functional|high|An invoice is paid only when three papers match|FIN-11 FIN-12
MI-3.4|functional|medium|A difference over 10.00 stops the payment|
PU-1.1|functional|medium|Upkeep follows hours, not months alone|FLD-11 MET-07
PU-2.1|business|high|Two people sign a safety permit|FLD-13
PU-3.2|functional|medium|The cost lands on the plant|FIN-13
`;
