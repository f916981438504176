//! The store against a real PostgreSQL: saving, conflicts, crashes, migrations. Each test has a database of its own in one cluster.

use diesel::prelude::*;
use diesel_migrations::MigrationHarness;
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_document::{Checked, Damping, EntryKind, LogEntry, PhotoOf, Room, Space, WorkPlan, read_value};
use oak_drum_matching::{Goal, run};
use oak_drum_shelf::{Format, ShelfAmplifier, ShelfWoofer, amplifier as shelved};
use oak_drum_store::tables::revision::Beside;
use oak_drum_store::tables::{amplifier, build, log_entry, owner, photo, revision, room, trial, woofer, work_plan};
use oak_drum_store::{Error, MIGRATIONS, Store, demo};
use oak_drum_testkit::Cluster;
use proptest::prelude::*;
use proptest::test_runner::TestRunner;
use serde_json::{Value, json};
use std::sync::Arc;

fn design(litres: f64) -> Checked {
    read_value(json!({
        "format": "oak-drum-design", "version": 3,
        "woofer": {"name": "Test 12", "fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": litres},
    }))
    .unwrap()
}

/// A database of one's own, with the program's tables, as long as this is held.
struct Own {
    store: Store,
    owner: uuid::Uuid,
    _cluster: Arc<Cluster>,
}

fn bare() -> Own {
    let cluster = Cluster::shared().unwrap();
    Own { store: Store::new(&cluster.database().unwrap(), 4), owner: uuid::Uuid::nil(), _cluster: cluster }
}

fn own() -> Own {
    let mut own = bare();
    own.store.migrate().unwrap();
    own.owner = owner::ensure(&mut own.connect(), "Workshop").unwrap().id;
    own
}

impl Own {
    fn connect(&self) -> oak_drum_store::Connection {
        self.store.connect().unwrap()
    }
    fn build(&self) -> build::BuildDetail {
        build::create(&mut self.connect(), self.owner, "Test", &[(design(60.0), WorkPlan::default())]).unwrap()
    }
}

/// Whatever was put on the shelf by hand or from files: its export is read back whole, by this program's own reader.
#[test]
fn what_is_stored_reads_back() {
    let own = own();
    let names = ["Marl 12", "marl  12", "Kelda 10", "K"];
    let step = (0..4usize, 0..names.len(), 1..45usize, 0..90usize);
    let steps = proptest::collection::vec(step, 1..14);
    let mut runner = TestRunner::new_with_rng(
        proptest::test_runner::Config { cases: 24, failure_persistence: None, ..Default::default() },
        proptest::test_runner::TestRng::deterministic_rng(proptest::test_runner::RngAlgorithm::ChaCha),
    );
    let connection = std::cell::RefCell::new(own.connect());
    let run = |connection: &mut PgConnection, steps: Vec<(usize, usize, usize, usize)>| {
        let owner = owner::ensure(connection, "Workshop")?;
        for (kind, name, count, first) in steps {
            let mut made = ShelfWoofer::from_sheet(&design(50.0).woofer);
            made.woofer.name = names[name].into();
            let set = made.sets[0].clone();
            made.sets = (first..first + count)
                .map(|i| oak_drum_shelf::ParameterSet { note: format!("no. {i}"), ..set.clone() })
                .collect();
            let _ = match kind {
                0 => woofer::create(connection, owner.id, &made).map(drop),
                1 => woofer::import(connection, owner.id, &[made], woofer::Known::LeaveOut, drop).map(drop),
                _ => woofer::import(connection, owner.id, &[made], woofer::Known::AddSets, drop).map(drop),
            };
        }
        let stored: Vec<ShelfWoofer> =
            woofer::records(connection, owner.id, None)?.into_iter().map(|(_, w)| w).collect();
        for format in [Format::Json, Format::Csv] {
            let file = oak_drum_shelf::export(&stored, format);
            let back = oak_drum_shelf::import(file.as_bytes(), format).map_err(|e| Error::Unforeseen(e.to_string()))?;
            assert_eq!(back.bad().count(), 0, "{:?}", back.bad().next());
            assert_eq!(back.woofers().count(), stored.len());
        }
        Err::<(), Error>(Error::NotFound("a reason to stay: every case is rolled back"))
    };
    let outcome = runner.run(&steps, |steps| {
        let ended = connection.borrow_mut().transaction(|c| run(c, steps));
        prop_assert!(matches!(ended, Err(Error::NotFound(_))), "{ended:?}");
        Ok(())
    });
    outcome.unwrap();
}

/// Up, the list of columns, down, nothing left, up again: the same list.
#[test]
fn migrations_undo_themselves() {
    let own = bare();
    #[derive(QueryableByName, PartialEq, Debug)]
    struct Column {
        #[diesel(sql_type = diesel::sql_types::Text)]
        text: String,
    }
    let columns = |c: &mut PgConnection| -> Vec<Column> {
        diesel::sql_query(
            "SELECT concat_ws(' ', table_name, column_name, data_type, is_nullable, column_default) AS text
             FROM information_schema.columns WHERE table_schema = 'public' AND table_name NOT LIKE '\\_\\_%' ORDER BY 1",
        )
        .load(c)
        .unwrap()
    };
    let connection = &mut own.connect();
    assert!(columns(connection).is_empty());
    connection.run_pending_migrations(MIGRATIONS).unwrap();
    let up = columns(connection);
    assert!(up.len() > 20);
    connection.revert_all_migrations(MIGRATIONS).unwrap();
    assert!(columns(connection).is_empty());
    connection.run_pending_migrations(MIGRATIONS).unwrap();
    assert_eq!(columns(connection), up);
}

#[derive(QueryableByName)]
struct Stored {
    #[diesel(sql_type = diesel::sql_types::Jsonb)]
    document: Value,
}

fn stored(c: &mut PgConnection, table: &str) -> Value {
    diesel::sql_query(format!("SELECT document FROM {table}")).get_result::<Stored>(c).unwrap().document
}

/// The first of the migrations that wait.
fn one_migration(c: &mut PgConnection) {
    let first = c.pending_migrations(MIGRATIONS).unwrap().remove(0);
    c.run_migration(&first).unwrap();
}

/// Goes back until this migration is undone.
fn back_before(c: &mut PgConnection, version: &str) {
    while c.applied_migrations().unwrap().iter().any(|v| *v.to_string() >= *version) {
        c.revert_last_migration(MIGRATIONS).unwrap();
    }
}

const OWNER: &str = "INSERT INTO owner (id, name) VALUES ('00000000-0000-0000-0000-000000000001', 'old')";

/// A sheet stored before there were parameter sets reads as a woofer of the shelf, and goes back as it was.
#[test]
fn old_sheets_become_woofers_of_the_shelf() {
    let own = bare();
    let c = &mut own.connect();
    one_migration(c);
    let sheet = serde_json::to_value(&design(60.0).woofer).unwrap();
    diesel::sql_query(OWNER).execute(c).unwrap();
    diesel::sql_query("INSERT INTO woofer (id, owner_id, name, maker, document) SELECT owner.id, owner.id, 'Test 12', '', $1 FROM owner")
        .bind::<diesel::sql_types::Jsonb, _>(&sheet)
        .execute(c)
        .unwrap();
    one_migration(c);
    let made = oak_drum_shelf::read_value(stored(c, "woofer")).unwrap();
    assert_eq!(made, ShelfWoofer::from_sheet(&design(60.0).woofer));
    c.revert_last_migration(MIGRATIONS).unwrap();
    assert_eq!(stored(c, "woofer"), sheet);
}

/// Prices and ticks that a stored design holds become its work plan, and go back into it; the design itself stays as it is.
#[test]
fn old_designs_give_their_work_plans() {
    let own = bare();
    let c = &mut own.connect();
    one_migration(c);
    one_migration(c);
    let mut document = serde_json::to_value(&*design(60.0)).unwrap();
    document["version"] = json!(4);
    let plain = document.clone();
    document["prices"] = json!({"sheet": 58.0});
    document["steps"] = json!([{"step": "cut", "done": true, "note": "fence off by 0.3"}]);
    diesel::sql_query(OWNER).execute(c).unwrap();
    diesel::sql_query("INSERT INTO build (id, owner_id, name) SELECT id, id, 'Old' FROM owner").execute(c).unwrap();
    for (letter, document) in [("A", &document), ("B", &plain)] {
        diesel::sql_query("INSERT INTO revision (id, build_id, letter, document, family, woofer_name) SELECT gen_random_uuid(), id, $1, $2, 'sealed', '' FROM build")
            .bind::<diesel::sql_types::Text, _>(letter)
            .bind::<diesel::sql_types::Jsonb, _>(document)
            .execute(c)
            .unwrap();
    }
    c.run_pending_migrations(MIGRATIONS).unwrap();
    let id = "00000000-0000-0000-0000-000000000001".parse().unwrap();
    let detail = build::get(c, id).unwrap();
    assert_eq!(detail.plans.len(), 1);
    assert_eq!(detail.plans[0].revision_id, detail.revisions[0].id);
    let plan = detail.plans[0].plan().unwrap();
    assert_eq!((plan.prices.sheet, plan.steps[0].note.as_str()), (Some(58.0), "fence off by 0.3"));
    for revision in detail.revisions {
        assert_eq!(read_value(revision.document).unwrap(), design(60.0), "{}", revision.letter);
    }
    back_before(c, "20261126000001");
    assert_eq!(stored(c, "revision WHERE letter = 'A'"), document);
    assert_eq!(stored(c, "revision WHERE letter = 'B'"), plain);
}

/// What a trial stored before there were chains was after reads as it is written now, and goes back as it was, its two resistances
/// joined.
#[test]
fn old_goals_get_their_chains() {
    let own = bare();
    let c = &mut own.connect();
    for _ in 0..3 {
        one_migration(c);
    }
    let plain = json!({"lowest_note_hz": 30, "level_db": 104, "distance_m": 2, "largest_outside_l": 140});
    let amplifier = json!({"power_w": 300, "load_ohm": 4, "minimum_load_ohm": 4});
    let mut whole = plain.clone();
    whole["amplifier"] = amplifier.clone();
    whole["source"] = json!({"source_resistance_ohm": 0.1, "lead_resistance_ohm": 0.2});
    diesel::sql_query(OWNER).execute(c).unwrap();
    diesel::sql_query("INSERT INTO build (id, owner_id, name) SELECT id, id, 'Old' FROM owner").execute(c).unwrap();
    for (woofers, goal) in [(1, &plain), (2, &whole)] {
        diesel::sql_query("INSERT INTO trial (id, owner_id, build_id, goal, counts, families, woofers, state) SELECT gen_random_uuid(), owner_id, id, $2, '{1}', '{sealed}', $1, 'done' FROM build")
            .bind::<diesel::sql_types::Integer, _>(woofers)
            .bind::<diesel::sql_types::Jsonb, _>(goal)
            .execute(c)
            .unwrap();
    }
    let goal = |c: &mut PgConnection, woofers: i32| {
        stored(c, &format!("(SELECT goal AS document FROM trial WHERE woofers = {woofers}) AS t"))
    };
    c.run_pending_migrations(MIGRATIONS).unwrap();
    let read = |value: Value| serde_json::from_value::<oak_drum_matching::Goal>(value).unwrap();
    let (bare, full) = (read(goal(c, 1)), read(goal(c, 2)));
    assert!(bare.chain.amplifier.is_none() && bare.chain.resistance() == 0.0);
    assert_eq!(full.chain.amplifier.as_ref().map(|a| a.power_w), Some(300.0));
    assert!((full.chain.resistance() - 0.3).abs() < 1e-12);
    back_before(c, "20261126000002");
    assert_eq!(goal(c, 1), plain);
    let back = goal(c, 2);
    assert_eq!(back["amplifier"], amplifier);
    assert!((back["source"]["lead_resistance_ohm"].as_f64().unwrap() - 0.3).abs() < 1e-12);
}

fn priced(sheet: f64) -> WorkPlan {
    WorkPlan::within(&json!({"prices": {"sheet": sheet}, "steps": [{"step": "cut", "done": true}]}))
}

/// A work plan begins at version 0, is saved from a known version, and makes neither a version of the design nor an entry in its
/// history; of several that begin at once one does and the others are told.
#[test]
fn a_work_plan_is_saved_beside_its_revision() {
    let own = own();
    let c = &mut own.connect();
    let first = own.build().revisions.remove(0);
    let none = work_plan::get(c, first.id).unwrap();
    assert_eq!((none.version, none.plan().unwrap()), (0, WorkPlan::default()));
    let begun: Vec<_> = std::thread::scope(|scope| {
        let each = |i: u32| {
            let (own, id) = (&own, first.id);
            scope.spawn(move || work_plan::save(&mut own.connect(), id, 0, &priced(f64::from(i))))
        };
        (0..4).map(each).collect::<Vec<_>>().into_iter().map(|t| t.join().unwrap()).collect()
    });
    let standing = work_plan::get(c, first.id).unwrap();
    assert_eq!(begun.iter().filter(|b| b.is_ok()).count(), 1);
    for refused in begun.into_iter().filter_map(Result::err) {
        let Error::Stale { version, current } = refused else { panic!("{refused}") };
        assert_eq!((version, current), (1, standing.document.clone()));
    }
    let saved = work_plan::save(c, first.id, 1, &priced(70.0)).unwrap();
    assert_eq!((saved.version, saved.plan().unwrap()), (2, priced(70.0)));
    assert!(matches!(work_plan::save(c, first.id, 1, &priced(1.0)), Err(Error::Stale { version: 2, .. })));
    assert_eq!(revision::get(c, first.id).unwrap().version, 1);
    assert_eq!(revision::history_of(c, first.id).unwrap().len(), 1);
    let nobody = work_plan::save(c, uuid::Uuid::now_v7(), 0, &priced(1.0));
    assert!(matches!(nobody, Err(Error::NotFound("revision"))));
    let copy = revision::create(c, first.build_id, &design(61.0), Beside::AsCopyOf(first.id)).unwrap();
    let beside = work_plan::get(c, copy.id).unwrap().plan().unwrap();
    assert_eq!(
        (beside.prices.sheet, beside.steps.len()),
        (Some(70.0), 0),
        "a copy has its prices, and nothing is done of it"
    );
}

#[test]
fn the_demo_loads_once() {
    let own = own();
    let c = &mut own.connect();
    assert!(demo::load(c).unwrap());
    assert!(!demo::load(c).unwrap());
    assert_eq!(owner::ensure(c, "another name").unwrap().name, "Workshop");
    assert!(woofer::list(c, own.owner).unwrap().len() >= 16);
    let builds = build::list(c, own.owner, build::Shelf::Bench).unwrap();
    assert_eq!((builds.len(), room::list(c, own.owner).unwrap().len()), (8, 4));
    assert_eq!(builds[0].letters, ["A", "B"]);
    let plans = build::get(c, builds[0].build.id).unwrap().plans;
    assert!(plans[0].plan().unwrap().prices.sheet.is_some(), "prices stand beside the first build");
}

#[test]
fn a_stale_save_changes_nothing() {
    let own = own();
    let c = &mut own.connect();
    let first = own.build().revisions.remove(0);
    let saved = revision::save(c, first.id, first.version, &design(70.0)).unwrap();
    assert_eq!(saved.version, first.version + 1);
    let stale = revision::save(c, first.id, first.version, &design(80.0)).unwrap_err();
    let Error::Stale { version, current } = stale else { panic!("{stale}") };
    assert_eq!((version, &current["enclosure"]["net_volume_l"]), (saved.version, &json!(70.0)));
    assert_eq!(revision::get(c, first.id).unwrap().document, saved.document);
    let history = revision::history_of(c, first.id).unwrap();
    assert_eq!(history.iter().map(|h| h.version).collect::<Vec<_>>(), [2, 1]);
    let nobody = revision::save(c, uuid::Uuid::now_v7(), 1, &design(80.0)).unwrap_err();
    assert!(matches!(nobody, Error::NotFound(_)));
}

#[test]
fn two_at_once_get_two_letters() {
    let own = own();
    let id = own.build().build.id;
    std::thread::scope(|scope| {
        for _ in 0..4 {
            scope.spawn(|| {
                revision::create(&mut own.connect(), id, &design(50.0), Beside::Plan(&WorkPlan::default())).unwrap()
            });
        }
    });
    let letters: Vec<String> =
        build::get(&mut own.connect(), id).unwrap().revisions.into_iter().map(|r| r.letter).collect();
    assert_eq!(letters, ["A", "B", "C", "D", "E"]);
}

#[test]
fn builds_are_tagged_and_those_put_away_are_listed_apart() {
    let own = own();
    let c = &mut own.connect();
    let id = own.build().build.id;
    let tags = vec!["hall".to_owned(), "für Jana".to_owned()];
    let tagged = build::change(c, id, None, Some(tags.clone())).unwrap();
    assert_eq!((tagged.build.name.as_str(), &tagged.build.tags), ("Test", &tags));
    // a name alone leaves the tags, and both the version goes on
    let named = build::change(c, id, Some("Hall".into()), None).unwrap().build;
    assert_eq!((named.name.as_str(), &named.tags, named.version), ("Hall", &tags, tagged.build.version + 1));
    let listed = |c: &mut _, shelf| build::list(c, own.owner, shelf).unwrap();
    assert_eq!(listed(c, build::Shelf::Bench)[0].build.tags, tags);
    assert!(listed(c, build::Shelf::Away).is_empty());
    build::set_deleted(c, id, true).unwrap();
    assert!(listed(c, build::Shelf::Bench).is_empty());
    let away = listed(c, build::Shelf::Away);
    assert_eq!(
        (away.len(), away[0].letters.as_slice(), away[0].family.as_str()),
        (1, ["A".to_owned()].as_slice(), "sealed")
    );
    assert!(matches!(build::change(c, id, None, Some(Vec::new())), Err(Error::NotFound("build"))));
}

#[test]
fn deleting_can_be_taken_back() {
    let own = own();
    let c = &mut own.connect();
    let detail = own.build();
    let (id, first) = (detail.build.id, detail.revisions[0].id);
    build::set_deleted(c, id, true).unwrap();
    assert!(matches!(build::get(c, id), Err(Error::NotFound("build"))));
    build::set_deleted(c, id, false).unwrap();
    revision::set_deleted(c, first, true).unwrap();
    assert!(build::get(c, id).unwrap().revisions.is_empty());
    revision::set_deleted(c, first, false).unwrap();
    assert_eq!(build::get(c, id).unwrap().revisions.len(), 1);
}

/// In a cluster of its own, which is stopped, started and killed.
#[test]
fn a_saved_revision_survives_a_crash_of_the_database() {
    let cluster = Arc::new(Cluster::start(true).unwrap());
    let mut own = Own { store: Store::new(&cluster.url, 4), owner: uuid::Uuid::nil(), _cluster: cluster.clone() };
    own.store.migrate().unwrap();
    own.owner = owner::ensure(&mut own.connect(), "Workshop").unwrap().id;
    let first = own.build().revisions.remove(0);
    let saved = revision::save(&mut own.connect(), first.id, 1, &design(77.0)).unwrap();
    cluster.stop().unwrap();
    assert!(matches!(own.store.connect(), Err(Error::Away(_))));
    cluster.start_again().unwrap();
    cluster.crash_and_restart().unwrap();
    let after = revision::get(&mut own.connect(), first.id).unwrap();
    assert_eq!((after.version, after.document), (saved.version, saved.document));
}

fn shelf(count: usize, prefix: &str) -> Vec<ShelfWoofer> {
    let sheet = design(60.0).into_design().woofer;
    (0..count)
        .map(|i| {
            let mut made = ShelfWoofer::from_sheet(&sheet);
            made.woofer.name = format!("{prefix} {i}");
            made.woofer.xmax_mm = Some(8.0);
            made.woofer.power_w = Some(200.0);
            made
        })
        .collect()
}

/// What fails half-way stores nothing; what is known is left out or extended; two at once add each woofer once.
#[test]
fn an_import_is_all_or_nothing() {
    let own = own();
    let c = &mut own.connect();
    let owner = own.owner;
    let before = woofer::list(c, owner).unwrap().len();
    let mut broken = shelf(600, "Broken");
    // PostgreSQL takes no zero character: the third batch fails
    broken[590].woofer.name = "zero \0".into();
    assert!(woofer::import(c, owner, &broken, woofer::Known::LeaveOut, |_| ()).is_err());
    assert_eq!(woofer::list(c, owner).unwrap().len(), before);

    let mut heard = Vec::new();
    let made = shelf(600, "Import");
    let both = std::thread::scope(|s| {
        let other = s.spawn(|| {
            let c = &mut own.connect();
            woofer::import(c, owner, &made, woofer::Known::LeaveOut, |_| ()).unwrap()
        });
        let mine = woofer::import(c, owner, &made, woofer::Known::LeaveOut, |n| heard.push(n)).unwrap();
        [mine, other.join().unwrap()]
    });
    assert_eq!(heard, [250, 500, 600]);
    assert_eq!(both[0].added + both[1].added, 600);
    assert_eq!(both[0].left_out + both[1].left_out, 600);
    let same = woofer::import(c, owner, &made[..3], woofer::Known::AddSets, |_| ()).unwrap();
    assert_eq!((same.added, same.extended, same.left_out), (0, 0, 3));
    let mut further = made[..3].to_vec();
    further.iter_mut().for_each(|w| w.sets[0].note = "a month later".into());
    let extended = woofer::import(c, owner, &further, woofer::Known::AddSets, |_| ()).unwrap();
    assert_eq!((extended.added, extended.extended), (0, 3));
    let lines = woofer::list(c, owner).unwrap();
    assert_eq!(lines.len(), before + 600);
    assert_eq!(lines.iter().filter(|l| l.row.name.starts_with("Import") && l.row.sets == 2).count(), 3);
}

#[test]
fn a_woofer_is_saved_from_a_known_version() {
    let own = own();
    let c = &mut own.connect();
    let owner = own.owner;
    let mut made = shelf(1, "Versions").remove(0);
    let record = woofer::create(c, owner, &made).unwrap();
    made.notes = "rubs".into();
    let saved = woofer::save(c, record.id, 1, &made).unwrap();
    assert_eq!(saved.version, 2);
    match woofer::save(c, record.id, 1, &made) {
        Err(Error::Stale { version: 2, current }) => assert_eq!(current["notes"], "rubs"),
        other => panic!("{other:?}"),
    }
    assert_eq!(woofer::set_favourite(c, record.id, true).unwrap().document["favourite"], true);
    woofer::set_deleted(c, record.id, true).unwrap();
    assert!(matches!(woofer::get(c, record.id), Err(Error::NotFound(_))));
    woofer::set_deleted(c, record.id, false).unwrap();
    assert_eq!(woofer::get(c, record.id).unwrap().document["notes"], "rubs");
}

/// Every claim runs out at once, as if its worker had died.
fn lapse(c: &mut PgConnection) {
    diesel::sql_query("UPDATE trial_part SET claimed_until = now() - interval '1 s' WHERE state = 'claimed'")
        .execute(c)
        .unwrap();
}

/// Two workers share a trial; what one loses the other takes over and the late one's work is passed over; a stopped
/// trial hands nothing out; the end is marked once; results are the same as computed at one go.
#[test]
fn a_trial_is_shared_lost_stopped_and_done() {
    let own = own();
    let c = &mut own.connect();
    let owner = own.owner;
    let made = own.build();
    woofer::import(c, owner, &shelf(20, "Tried"), woofer::Known::LeaveOut, |_| ()).unwrap();
    let keys: Vec<uuid::Uuid> = woofer::list(c, owner).unwrap().iter().map(|l| l.id).collect();
    let goal: Goal = serde_json::from_value(
        json!({"lowest_note_hz": 35, "level_db": 100, "distance_m": 1, "largest_outside_l": 90}),
    )
    .unwrap();
    let families = vec!["sealed".to_owned()];
    let begun = trial::begin(c, owner, made.build.id, &goal, &[1, 2], &families, Some(&keys)).unwrap();
    assert_eq!((begun.woofers, begun.state.as_str()), (20, "running"));
    let (one, two) = (uuid::Uuid::now_v7(), uuid::Uuid::now_v7());
    let work = |claim: &trial::Claim| -> Vec<_> {
        let each = |(i, (_, sheet)): (usize, &(_, _))| {
            run(&claim.goal, sheet, &claim.counts, &claim.families).into_iter().map(move |o| (i, o))
        };
        claim.sheets.iter().enumerate().flat_map(each).collect()
    };
    let first = trial::claim(c, one).unwrap().unwrap();
    let second = trial::claim(c, two).unwrap().unwrap();
    assert_ne!(first.part, second.part);
    assert!(trial::finish(c, two, &second, &work(&second)).unwrap());
    // the first worker dies; the second takes its part over, and the first comes back too late
    lapse(c);
    let again = trial::claim(c, two).unwrap().unwrap();
    assert_eq!(again.part, first.part);
    assert!(!trial::finish(c, one, &first, &work(&first)).unwrap());
    assert!(trial::finish(c, two, &again, &work(&again)).unwrap());

    assert_eq!(trial::set_running(c, begun.id, false).unwrap().state, "stopped");
    assert!(trial::claim(c, one).unwrap().is_none());
    assert_eq!(trial::set_running(c, begun.id, true).unwrap().state, "running");
    let last = trial::claim(c, one).unwrap().unwrap();
    assert!(trial::finish(c, one, &last, &work(&last)).unwrap());
    assert!(trial::claim(c, one).unwrap().is_none());
    let done = trial::of_build(c, made.build.id).unwrap().unwrap();
    assert_eq!((done.state.as_str(), done.done, done.results), ("done", 20, 40));
    assert!(done.finished_at.is_some());

    let best = trial::results(c, begun.id, trial::Sort::Best, 0, 100).unwrap();
    assert_eq!(best.len(), 40);
    // results of before sentences carried quantities are told as those of now
    let words = "UPDATE trial_result SET outcome = jsonb_set(outcome, '{reason}', '\"as before\"')";
    diesel::sql_query(words).execute(c).unwrap();
    let old = trial::results(c, begun.id, trial::Sort::Best, 0, 1).unwrap().remove(0);
    assert_eq!(old.outcome["reason"], json!(["as before"]));
    read_value(trial::design(c, old.id).unwrap()).unwrap();
    let sizes = trial::results(c, begun.id, trial::Sort::Size, 0, 5).unwrap();
    assert!(sizes.windows(2).all(|w| w[0].outcome["outside_l"].as_f64() <= w[1].outcome["outside_l"].as_f64()));
    read_value(trial::design(c, best[0].id).unwrap()).unwrap();
    // a part over which workers die again and again is given up, and the trial ends
    let doomed = trial::begin(c, owner, made.build.id, &goal, &[1], &families, Some(&keys[..2])).unwrap();
    assert!(matches!(trial::get(c, begun.id), Err(Error::NotFound(_))), "a build keeps its newest trial");
    while trial::claim(c, one).unwrap().is_some() {
        lapse(c);
    }
    let ended = trial::get(c, doomed.id).unwrap();
    assert_eq!((ended.state.as_str(), ended.given_up), ("done", 2));
}

fn plate(name: &str, watts: f64) -> ShelfAmplifier {
    ShelfAmplifier::from_sheet(Amplifier { name: name.into(), ..Amplifier::rated(watts, 8.0, 4.0) })
}

/// An amplifier is kept, saved from a known version, taken off and put back; of several saves at once from one version one counts.
#[test]
fn amplifiers_are_kept() {
    let own = own();
    let c = &mut own.connect();
    let made = amplifier::create(c, own.owner, &plate("Plate", 300.0)).unwrap();
    assert_eq!((made.version, amplifier::list(c, own.owner).unwrap().len()), (1, 1));
    let outcomes: Vec<_> = std::thread::scope(|scope| {
        let save = |watts: f64| {
            let (store, id) = (own.store.clone(), made.id);
            scope.spawn(move || amplifier::save(&mut store.connect().unwrap(), id, 1, &plate("Plate", watts)))
        };
        let all: Vec<_> = [100.0, 200.0, 400.0, 500.0].map(save).into_iter().collect();
        all.into_iter().map(|t| t.join().unwrap()).collect()
    });
    let stood: Vec<_> = outcomes.iter().filter_map(|o| o.as_ref().ok()).collect();
    assert_eq!((stood.len(), stood[0].version), (1, 2));
    for lost in outcomes.iter().filter_map(|o| o.as_ref().err()) {
        assert!(matches!(lost, Error::Stale { version: 2, current } if *current == stood[0].document), "{lost:?}");
    }
    amplifier::set_deleted(c, made.id, true).unwrap();
    assert!(amplifier::list(c, own.owner).unwrap().is_empty());
    assert!(matches!(amplifier::save(c, made.id, 2, &plate("Plate", 1.0)), Err(Error::NotFound("amplifier"))));
    amplifier::set_deleted(c, made.id, false).unwrap();
    assert_eq!(amplifier::list(c, own.owner).unwrap()[0].version, 2);
    assert!(matches!(amplifier::set_deleted(c, own.owner, true), Err(Error::NotFound("amplifier"))));
}

/// A file's amplifiers are taken in once, those that stand there already left out, and no more than the shelf holds: then none.
#[test]
fn amplifiers_from_a_file_are_taken_in_whole() {
    let own = own();
    let c = &mut own.connect();
    amplifier::create(c, own.owner, &plate("Plate  300", 300.0)).unwrap();
    let file = [plate("plate 300", 300.0), plate("Field", 600.0)];
    let done = amplifier::import(c, own.owner, &file).unwrap();
    assert_eq!((done.added, done.left_out), (1, 1));
    let again = amplifier::import(c, own.owner, &file).unwrap();
    assert_eq!((again.added, again.left_out), (0, 2));
    let text = shelved::write_file(&amplifier::sheets(c, own.owner).unwrap());
    assert_eq!(shelved::read_file(text.as_bytes()).unwrap().len(), 2);
    let many: Vec<ShelfAmplifier> = (0..shelved::MOST - 1).map(|i| plate(&format!("No. {i}"), 100.0)).collect();
    assert!(matches!(amplifier::import(c, own.owner, &many), Err(Error::Invalid(_))));
    assert_eq!(amplifier::list(c, own.owner).unwrap().len(), 2);
    assert_eq!(amplifier::import(c, own.owner, &many[1..]).unwrap().added, shelved::MOST - 2);
    assert!(matches!(amplifier::create(c, own.owner, &plate("One more", 1.0)), Err(Error::Invalid(_))));
}

/// Measurements keep their samples by content: the same are kept once, by whichever build; a full build takes no more.
#[test]
fn measurements_are_kept_with_their_samples() {
    use oak_drum_curves::about::About;
    use oak_drum_curves::curve::Curve;
    use oak_drum_curves::measurement::{MOST, Measurement, Source};
    use oak_drum_curves::process::recipe::Data;
    use oak_drum_store::tables::measurement;
    let own = own();
    let mut c = own.connect();
    let made = own.build();
    let data = Data::Points(Curve::of_level(vec![10.0, 20.0, 40.0], &[80.0, 85.0, 88.0], None));
    let one = Measurement::of(About { name: "Cone".into(), ..About::default() }, Source::Bench {});
    let first = measurement::create(&mut c, made.build.id, Some(made.revisions[0].id), &one, &data).unwrap();
    let second = measurement::create(&mut c, made.build.id, None, &one, &data).unwrap();
    #[derive(diesel::QueryableByName)]
    struct Count {
        #[diesel(sql_type = diesel::sql_types::BigInt)]
        count: i64,
    }
    let count = |c: &mut PgConnection| -> i64 {
        diesel::sql_query("SELECT count(*) AS count FROM samples").get_result::<Count>(c).unwrap().count
    };
    assert_eq!(count(&mut c), 1, "the same samples are kept once");
    let (record, back) = measurement::get(&mut c, first.id).unwrap();
    let (Data::Points(a), Data::Points(b)) = (&back, &data) else { panic!() };
    assert_eq!(a, b);
    assert_eq!(record.measurement().unwrap(), one);

    let mut renamed = one.clone();
    renamed.about.name = "Near the cone".into();
    let saved = measurement::save(&mut c, first.id, 1, &renamed).unwrap();
    assert_eq!((saved.version, saved.document["about"]["name"].as_str()), (2, Some("Near the cone")));
    assert!(matches!(measurement::save(&mut c, first.id, 1, &one), Err(Error::Stale { version: 2, .. })));
    measurement::set_deleted(&mut c, second.id, true).unwrap();
    assert_eq!(measurement::of_build(&mut c, made.build.id).unwrap().len(), 1);
    assert!(matches!(measurement::get(&mut c, second.id), Err(Error::NotFound(_))));
    measurement::set_deleted(&mut c, second.id, false).unwrap();
    for _ in 2..MOST {
        measurement::create(&mut c, made.build.id, None, &one, &data).unwrap();
    }
    let full = measurement::create(&mut c, made.build.id, None, &one, &data);
    assert!(matches!(full, Err(Error::Invalid(_))));
    let nowhere = uuid::Uuid::nil();
    let strange = measurement::create(&mut c, made.build.id, Some(nowhere), &one, &data);
    assert!(matches!(strange, Err(Error::NotFound("revision"))), "a revision has to be this build's");
    assert!(matches!(measurement::create(&mut c, nowhere, None, &one, &data), Err(Error::NotFound("build"))));
}

/// A room is kept, saved from a known version, taken away and put back; of two saves from one version one counts.
#[test]
fn rooms_are_kept() {
    let own = own();
    let c = &mut own.connect();
    let parlour = |t60: f64| Room {
        name: "Parlour".into(),
        space: Space::Room {
            length_m: 5.0,
            width_m: 4.0,
            height_m: 2.5,
            damping: Damping::Time { t60_s: t60 },
            leak_hz: None,
        },
        kept_free: Vec::new(),
    };
    let made = room::create(c, own.owner, &parlour(0.5)).unwrap();
    assert_eq!((made.version, room::list(c, own.owner).unwrap().len()), (1, 1));
    let saved = room::save(c, made.id, 1, &parlour(0.7)).unwrap();
    assert_eq!((saved.version, &saved.document["space"]["damping"]["t60_s"]), (2, &serde_json::json!(0.7)));
    let lost = room::save(c, made.id, 1, &parlour(0.9)).unwrap_err();
    assert!(matches!(lost, Error::Stale { version: 2, current } if current == saved.document));
    room::set_deleted(c, made.id, true).unwrap();
    assert!(room::list(c, own.owner).unwrap().is_empty());
    assert!(matches!(room::save(c, made.id, 2, &parlour(1.0)), Err(Error::NotFound("room"))));
    room::set_deleted(c, made.id, false).unwrap();
    assert_eq!(room::list(c, own.owner).unwrap()[0].version, 2);
    assert!(matches!(room::set_deleted(c, own.owner, true), Err(Error::NotFound("room"))));
}

fn entry(text: &str) -> LogEntry {
    LogEntry { text: text.into(), ..LogEntry::default() }
}

/// An entry is kept once however often it is sent, is changed from the version it was read at, and is found by its words and kind;
/// pages follow each other without a gap, also where two were written in one moment.
#[test]
fn entries_are_kept_once() {
    let own = own();
    let (build, mut c) = (own.build().build, own.connect());
    let now = chrono::Utc::now();
    let id = uuid::Uuid::now_v7();
    let first = log_entry::save(&mut c, build.id, id, 0, &entry("Glued 100% of the braces"), now).unwrap();
    assert_eq!(log_entry::save(&mut c, build.id, id, 0, &entry("Glued 100% of the braces"), now).unwrap(), first);
    assert!(matches!(
        log_entry::save(&mut c, build.id, id, 0, &entry("Other"), now),
        Err(Error::Stale { version: 1, .. })
    ));
    let second = log_entry::save(&mut c, build.id, id, 1, &entry("Glued all of the braces"), now).unwrap();
    assert_eq!((second.version, second.written_at), (2, first.written_at));
    let other = own.build().build;
    assert!(matches!(log_entry::save(&mut c, other.id, id, 2, &entry("Stolen"), now), Err(Error::NotFound(_))));
    for i in 0..450 {
        let kind = if i % 3 == 0 { EntryKind::Mistake } else { EntryKind::Note };
        let made = LogEntry { kind, ..entry(&format!("entry {i} of 50% and_more")) };
        // three in one moment
        let at = now - chrono::Duration::minutes(i / 3);
        log_entry::save(&mut c, build.id, uuid::Uuid::now_v7(), 0, &made, at).unwrap();
    }
    let mut seen = std::collections::BTreeSet::new();
    let mut wanted = log_entry::Wanted::default();
    loop {
        let page = log_entry::of_build(&mut c, build.id, &wanted).unwrap();
        let Some(last) = page.last() else { break };
        wanted.before = Some((last.written_at, last.id));
        assert!(page.iter().all(|e| seen.insert(e.id)), "one came twice");
    }
    assert_eq!(seen.len(), 451);
    let found = |words: &str, kind| {
        let wanted = log_entry::Wanted { words: words.into(), kind, before: None };
        log_entry::of_build(&mut own.connect(), build.id, &wanted).unwrap().len()
    };
    assert_eq!((found("BRACES glued", None), found("and_more 449", None), found("_", None)), (1, 1, 200));
    assert_eq!(found("50x", None), 0, "a percent sign is one");
    assert_eq!(found("entry", Some(EntryKind::Mistake)), 150);
    log_entry::set_deleted(&mut c, id, true).unwrap();
    assert_eq!((found("braces", None), log_entry::count(&mut c, build.id).unwrap()), (0, 450));
    log_entry::set_deleted(&mut c, id, false).unwrap();
    assert_eq!(found("braces", None), 1);
}

/// Photos are kept by their content; an entry with one that is not here is refused whole; one that stands in no entry goes after a
/// month, one that does stays.
#[test]
fn photos_belong_to_entries() {
    let own = own();
    let (build, mut c) = (own.build().build, own.connect());
    let picture = |byte: u8| photo::Picture { content: vec![byte; 9], small: vec![byte; 3], width: 40, height: 30 };
    let digest = photo::keep(&mut c, &picture(1)).unwrap();
    assert_eq!(photo::keep(&mut c, &picture(1)).unwrap(), digest);
    let other = photo::keep(&mut c, &picture(2)).unwrap();
    assert_eq!(
        (photo::get(&mut c, &digest, false).unwrap(), photo::get(&mut c, &digest, true).unwrap().len()),
        (vec![1; 9], 3)
    );
    let hex = log_entry::hex(&digest);
    assert_eq!(log_entry::digest_of(&hex).unwrap(), digest);
    let shown =
        |digest: String| LogEntry { photos: vec![PhotoOf { digest, width: 40, height: 30 }], ..entry("A joint") };
    let id = uuid::Uuid::now_v7();
    let missing = log_entry::save(&mut c, build.id, id, 0, &shown("ab".repeat(32)), chrono::Utc::now());
    assert!(matches!(missing, Err(Error::Invalid(_))));
    assert_eq!(log_entry::count(&mut c, build.id).unwrap(), 0, "nothing is half kept");
    log_entry::save(&mut c, build.id, id, 0, &shown(hex), chrono::Utc::now()).unwrap();
    assert_eq!(photo::sweep(&mut c, chrono::Utc::now() + chrono::Duration::days(29)).unwrap(), 0);
    assert_eq!(photo::sweep(&mut c, chrono::Utc::now() + chrono::Duration::days(31)).unwrap(), 1);
    assert!(photo::get(&mut c, &digest, true).is_ok());
    assert!(matches!(photo::get(&mut c, &other, true), Err(Error::NotFound(_))));
}

/// What would be done better is told where woofer, family or boards are the same, not at the build it was written at, and not of what
/// shares nothing.
#[test]
fn lessons_go_to_the_next_build() {
    let own = own();
    let (first, second, mut c) = (own.build().build, own.build().build, own.connect());
    let write = |build: uuid::Uuid, kind: EntryKind, text: &str| {
        let made = LogEntry { kind, ..entry(text) };
        log_entry::save(&mut own.connect(), build, uuid::Uuid::now_v7(), 0, &made, chrono::Utc::now()).unwrap();
    };
    write(first.id, EntryKind::Better, "Seal the wires first");
    write(first.id, EntryKind::Note, "Sealed");
    let shared = |family: &str, woofer: &str| log_entry::Shared {
        family: family.into(),
        woofer: woofer.into(),
        board: String::new(),
    };
    let mut told = |aside, shared: &log_entry::Shared| log_entry::lessons(&mut c, own.owner, aside, shared).unwrap();
    let found = told(Some(second.id), &shared("sealed", "Test 12"));
    assert_eq!((found.len(), found[0].text.as_str()), (1, "Seal the wires first"));
    assert_eq!(found[0].shares, ["woofer", "family"]);
    assert_eq!(told(None, &shared("sealed", "Other 10"))[0].shares, ["family"]);
    assert!(told(Some(first.id), &shared("sealed", "Test 12")).is_empty());
    assert!(told(None, &shared("vented", "")).is_empty());
    write(second.id, EntryKind::Better, "Round the edges over last");
    assert_eq!(told(None, &shared("sealed", "")).len(), 2);
}

/// A log that is full refuses one more in clear words and keeps what it holds; what stands can still be changed.
#[test]
fn a_full_log_says_so() {
    let own = own();
    let (build, mut c) = (own.build().build, own.connect());
    let fill = format!(
        "INSERT INTO log_entry (id, build_id, kind, document, written_at) SELECT gen_random_uuid(), '{}', 'note', \
         jsonb_build_object('kind', 'note', 'text', 'entry ' || i), now() - i * interval '1 minute' FROM generate_series(1, {}) i",
        build.id,
        log_entry::MOST_ENTRIES
    );
    diesel::sql_query(fill).execute(&mut c).unwrap();
    let one_more = log_entry::save(&mut c, build.id, uuid::Uuid::now_v7(), 0, &entry("One more"), chrono::Utc::now());
    let Err(Error::Invalid(problems)) = one_more else { panic!("{one_more:?}") };
    assert!(problems[0].message.contains("as many as there may be"));
    assert_eq!(log_entry::count(&mut c, build.id).unwrap(), log_entry::MOST_ENTRIES);
    let newest = log_entry::of_build(&mut c, build.id, &log_entry::Wanted::default()).unwrap().remove(0);
    let changed = log_entry::save(&mut c, build.id, newest.id, 1, &entry("Changed"), chrono::Utc::now()).unwrap();
    assert_eq!(changed.version, 2);
}
