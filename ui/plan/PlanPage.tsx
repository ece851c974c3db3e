'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useMemo, useState } from 'react';
import type { PlanView } from '@/contract/planViews';
import { checkPlan } from '@/core/plan/check';
import { planContext, profilesByPin } from '@/core/plan/context';
import { plannedDevice } from '@/core/plan/newPlan';
import { pinName, type Plan } from '@/core/plan/plan';
import { propose } from '@/core/plan/propose';
import { Photographs } from '../photograph/Photographs';
import { load, newId, Refusal, send } from '../shared/api';
import { Age } from '../shared/Age';
import { usePerson, useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { DescribeLogger } from './DescribeLogger';
import { CableTest } from './CableTest';
import { DeviceForm } from './DeviceForm';
import { Drawing, type Lit } from './Drawing';
import { Endurance } from './Endurance';
import { Findings } from './Findings';
import { InstallPlanned } from './InstallPlanned';
import { PlanBasics } from './PlanBasics';
import { usePlanHistory } from './usePlanHistory';

/** What goes on which terminal, and will it work? */
export function PlanPage({ initial }: { initial: PlanView }) {
  const path = `/api/v1/stations/${initial.stationId}/plan`;
  const { data, error, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<PlanView>(path),
    initialData: initial,
  });
  const again = async () => void (await refetch());
  return (
    <>
      <StationHead stationId={data.stationId} code={data.code} name={data.name} />
      <ProblemNote error={error} />
      {data.plan ? (
        <Editor view={data} plan={data.plan} onChanged={again} />
      ) : (
        <DescribeLogger view={data} onDone={again} />
      )}
      <Photographs stationId={data.stationId} planRevision={data.revision || null} />
    </>
  );
}

function Editor({
  view,
  plan: loaded,
  onChanged,
}: {
  view: PlanView;
  plan: Plan;
  onChanged: () => Promise<void>;
}) {
  const history = usePlanHistory(loaded);
  // What is on file as far as this page knows: the revision it began from, or saved last.
  const [base, setBase] = useState({ plan: loaded, revision: view.revision });
  const { plan } = history;
  const mayEdit = useMay('measure');
  const { initials } = usePerson();
  const profiles = useMemo(() => profilesByPin(view.profiles), [view.profiles]);
  const context = useMemo(() => planContext(plan, profiles), [plan, profiles]);
  const findings = useMemo(() => checkPlan(plan, profiles), [plan, profiles]);
  const [selected, setSelected] = useState<string | null>(null);
  const [lit, setLit] = useState<Lit | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const dirty = plan !== base.plan || base.revision === 0;
  const take = (theirs: Plan, revision: number) => {
    history.load(theirs);
    setBase({ plan: theirs, revision });
  };
  const save = useMutation({
    mutationFn: () =>
      send<{ revision: number }>('PUT', `/api/v1/stations/${view.stationId}/plan`, {
        basedOn: base.revision,
        plan,
      }),
    onSuccess: async ({ revision }) => {
      setBase({ plan, revision });
      await onChanged();
    },
  });
  const other =
    save.error instanceof Refusal && save.error.problem.code === 'edited-meanwhile'
      ? (save.error.problem.extra as { newest: number; plan: Plan | null; differences: string[] })
      : null;
  const troubled = new Set(
    findings
      .filter((f) => !f.accepted && (f.severity === 'stops' || f.severity === 'fails'))
      .flatMap((f) => f.devices),
  );
  const use = selected === null ? undefined : context.byId.get(selected);
  const installed = new Set(view.installed.map((i) => i.id));
  const proposeNow = () => {
    const found = propose(plan, profiles);
    switch (found.kind) {
      case 'plan':
        history.edit(() => found.plan);
        setSaid(
          found.landed.length
            ? `Landed ${found.landed.map((id) => context.byId.get(id)?.plan.name).join(', ')}.`
            : 'Every lead lies already.',
        );
        return;
      case 'conflict': {
        const names = (ids: readonly string[]) => ids.map((id) => context.byId.get(id)?.plan.name).join(', ');
        setSaid(
          `${names(found.devices)} cannot ${found.devices.length > 1 ? 'all ' : ''}be landed${
            found.heldBy.length ? ` while ${names(found.heldBy)} lie where they are` : ''
          }; ${found.smallest ? 'no smaller set is in conflict' : 'without any one of them it can be done'}.`,
        );
        setLit({ devices: found.devices, terminals: [] });
        return;
      }
      case 'gave-up':
        setSaid(`Gave up after ${found.tried} places. Land some by hand, then try again.`);
    }
  };
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h2" sx={{ mr: 1 }}>
          Wiring plan
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ flexGrow: 1 }}>
          {context.logger?.name ?? view.loggerModel} {view.loggerSerial} ·{' '}
          {view.revision === 0 ? (
            'as it hangs, not saved yet'
          ) : (
            <>
              revision {view.revision} by {view.savedBy}, <Age at={view.savedAt!} />
            </>
          )}
          {dirty && view.revision > 0 ? ' · changed, not saved' : ''}
        </Typography>
        {mayEdit && (
          <>
            <Button onClick={history.undo} disabled={!history.canUndo} title="Ctrl+Z">
              Undo
            </Button>
            <Button onClick={history.redo} disabled={!history.canRedo} title="Ctrl+Shift+Z">
              Redo
            </Button>
            <Button onClick={proposeNow}>Propose</Button>
            <Button variant="contained" disabled={!dirty || save.isPending} onClick={() => save.mutate()}>
              {save.isPending ? 'Saving …' : 'Save'}
            </Button>
          </>
        )}
        {view.revision > 0 && (
          <Button component={PageLink} href={`/stations/${view.stationId}/connect/plan/sheet`}>
            Wiring sheet
          </Button>
        )}
      </Box>
      {view.revision > base.revision && !save.isPending && !other && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 1 }}
          action={
            <Button size="small" onClick={() => view.plan && take(view.plan, view.revision)}>
              Load theirs
            </Button>
          }
        >
          {view.savedBy} saved revision {view.revision} meanwhile.
        </Alert>
      )}
      {said && (
        <Alert severity="info" variant="outlined" sx={{ mb: 1 }} onClose={() => setSaid(null)}>
          {said}
        </Alert>
      )}
      <ProblemNote error={save.error}>
        {other && (
          <Box sx={{ mt: 1 }}>
            {other.differences.slice(0, 12).map((d) => (
              <Typography key={d} variant="body2">
                {d}
              </Typography>
            ))}
            <Button
              size="small"
              sx={{ mt: 1, mr: 1 }}
              onClick={() => {
                setBase({ ...base, revision: other.newest });
                save.reset();
              }}
            >
              Keep mine: save it over theirs
            </Button>
            <Button
              size="small"
              sx={{ mt: 1 }}
              onClick={() => {
                if (other.plan) take(other.plan, other.newest);
                save.reset();
                void onChanged();
              }}
            >
              Take theirs
            </Button>
          </Box>
        )}
      </ProblemNote>
      <Cautions cautions={view.cautions} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 380px' },
          gap: 2,
          alignItems: 'start',
        }}
      >
        <Box sx={{ display: 'grid', gap: 1.5 }}>
          {mayEdit && (
            <AddDevice
              view={view}
              onAdd={(code, name) => {
                const profile = addable(view).find((p) => p.code === code);
                if (!profile) return;
                const made = plannedDevice(newId(), profile, name);
                history.edit((p) => ({ ...p, devices: [...p.devices, made] }));
                setSelected(made.id);
              }}
            />
          )}
          {plan.devices.length === 0 && (
            <Typography>
              Nothing is planned yet. Add a sensor above, then let propose land its leads.
            </Typography>
          )}
          <Drawing
            plan={plan}
            context={context}
            selected={selected}
            lit={lit ?? undefined}
            troubled={troubled}
            readOnly={!mayEdit}
            onSelect={setSelected}
            onLand={history.land}
          />
          {context.logger && (
            <PlanBasics plan={plan} logger={context.logger} disabled={!mayEdit} onEdit={history.edit} />
          )}
          <Endurance context={context} profiles={profiles} disabled={!mayEdit} onEdit={history.edit} />
        </Box>
        <Box sx={{ display: 'grid', gap: 2 }}>
          {use && (
            <DeviceForm
              key={use.plan.id}
              use={use}
              plan={plan}
              accessories={view.profiles.flatMap((p) => (p.kind === 'accessory' ? [p] : []))}
              disabled={!mayEdit}
              onChange={(change) => history.device(use.plan.id, change)}
              onRemove={() => {
                history.edit((p) => ({ ...p, devices: p.devices.filter((d) => d.id !== use.plan.id) }));
                setSelected(null);
              }}
            />
          )}
          {use &&
            mayEdit &&
            use.accessories.map((a) => (
              <CableTest key={`${use.plan.id} ${a.code}`} stationId={view.stationId} cable={a} />
            ))}
          {use && mayEdit && use.sensor && !installed.has(use.plan.id) && (
            <>
              {dirty ? (
                <Typography variant="body2" color="text.secondary">
                  Save the plan to connect {use.plan.name} by it.
                </Typography>
              ) : (
                <InstallPlanned
                  key={`${use.plan.id} install`}
                  stationId={view.stationId}
                  revision={base.revision}
                  use={use}
                  context={context}
                  onInstalled={onChanged}
                />
              )}
            </>
          )}
          {use && installed.has(use.plan.id) && (
            <Typography variant="body2">
              Connected.{' '}
              <Link component={PageLink} href={`/stations/${view.stationId}/connect`}>
                Talk to it under Connect
              </Link>
            </Typography>
          )}
          <Findings
            findings={findings}
            mayEdit={mayEdit}
            onLight={setLit}
            onShow={setSelected}
            onAccept={(key, reason) =>
              history.edit((p) => ({ ...p, accepted: [...p.accepted, { key, reason, by: initials }] }))
            }
            onRefuse={(key) =>
              history.edit((p) => ({ ...p, accepted: p.accepted.filter((a) => a.key !== key) }))
            }
          />
        </Box>
      </Box>
    </>
  );
}

/** What can be put into a plan: sensors and boards, each in its newest revision. */
const addable = ({ profiles }: PlanView) => {
  const models = profiles.flatMap((p) => (p.kind === 'sensor' || p.kind === 'board' ? [p] : []));
  return models.filter((p) => !models.some((o) => o.code === p.code && o.revision > p.revision));
};

function AddDevice({ view, onAdd }: { view: PlanView; onAdd: (code: string, name: string) => void }) {
  const newest = addable(view);
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}
      onSubmit={(e) => {
        e.preventDefault();
        if (!code || !name.trim()) return;
        onAdd(code, name.trim());
        setName('');
      }}
    >
      <TextField
        select
        label="Model"
        value={code}
        sx={{ minWidth: 260, flexGrow: 1 }}
        onChange={(e) => setCode(e.target.value)}
      >
        {newest.map((p) => (
          <MenuItem key={pinName(p)} value={p.code}>
            {p.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="Where"
        value={name}
        onChange={(e) => setName(e.target.value)}
        sx={{ minWidth: 160 }}
      />
      <Button type="submit" disabled={!code || !name.trim()}>
        Add to the plan
      </Button>
    </Box>
  );
}
