-- An agreed version never changes (product, States): only its state may go on to retired.
create function keep_agreed_version() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' then
    if old.state <> 'draft' then raise exception 'version % is agreed and is kept', old.number using errcode = 'KB001'; end if;
    return old;
  end if;
  if old.state <> 'draft' and (new.steps, new.needs, new.gives, new.rows, new.number, new.test_id)
     is distinct from (old.steps, old.needs, old.gives, old.rows, old.number, old.test_id) then
    raise exception 'version % is agreed and does not change', old.number using errcode = 'KB001';
  end if;
  return new;
end $$;
--> statement-breakpoint
create trigger keep_agreed_version before update or delete on test_versions for each row execute function keep_agreed_version();
--> statement-breakpoint
-- Finished attempts are never overwritten or deleted (product, rule 4).
create function keep_finished_attempt() returns trigger language plpgsql as $$
begin
  if old.finished_at is not null then raise exception 'attempt % is finished and is kept', old.number using errcode = 'KB002'; end if;
  if tg_op = 'DELETE' then return old; end if;
  return new;
end $$;
--> statement-breakpoint
create trigger keep_finished_attempt before update or delete on attempts for each row execute function keep_finished_attempt();
