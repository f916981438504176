//! The store against a real PostgreSQL: saving, conflicts, crashes, migrations. One cluster for all of it.

use diesel::prelude::*;
use diesel_migrations::MigrationHarness;
use oak_drum_document::{Checked, read_value};
use oak_drum_matching::{Goal, run};
use oak_drum_shelf::{Format, ShelfWoofer};
use oak_drum_store::tables::{build, owner, revision, trial, woofer};
use oak_drum_store::{Error, MIGRATIONS, Store, demo};
use oak_drum_testkit::Cluster;
use proptest::prelude::*;
use proptest::test_runner::TestRunner;
use serde_json::json;

fn design(litres: f64) -> Checked {
    read_value(json!({
        "format": "oak-drum-design", "version": 3,
        "woofer": {"name": "Test 12", "fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": litres},
    }))
    .unwrap()
}

#[test]
fn the_store_keeps_what_it_is_given() {
    let cluster = Cluster::start(true).unwrap();
    let store = Store::new(&cluster.url, 4);
    migrations_undo_themselves(&store);
    store.migrate().unwrap();
    old_sheets_become_woofers_of_the_shelf(&store);
    the_demo_loads_once(&store);
    a_stale_save_changes_nothing(&store);
    two_at_once_get_two_letters(&store);
    deleting_can_be_taken_back(&store);
    an_import_is_all_or_nothing(&store);
    a_woofer_is_saved_from_a_known_version(&store);
    what_is_stored_reads_back(&store);
    a_trial_is_shared_lost_stopped_and_done(&store);
    a_saved_revision_survives_a_crash_of_the_database(&cluster, &store);
}

/// Whatever was put on the shelf by hand or from files: its export is read back whole, by this program's own reader.
fn what_is_stored_reads_back(store: &Store) {
    let names = ["Marl 12", "marl  12", "Kelda 10", "K"];
    let step = (0..4usize, 0..names.len(), 1..45usize, 0..90usize);
    let steps = proptest::collection::vec(step, 1..14);
    let mut runner = TestRunner::new_with_rng(
        proptest::test_runner::Config { cases: 24, failure_persistence: None, ..Default::default() },
        proptest::test_runner::TestRng::deterministic_rng(proptest::test_runner::RngAlgorithm::ChaCha),
    );
    let connection = std::cell::RefCell::new(store.connect().unwrap());
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
            let back = oak_drum_shelf::import(file.as_bytes(), format).map_err(Error::Unforeseen)?;
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
fn migrations_undo_themselves(store: &Store) {
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
    let connection = &mut store.connect().unwrap();
    assert!(columns(connection).is_empty());
    connection.run_pending_migrations(MIGRATIONS).unwrap();
    let up = columns(connection);
    assert!(up.len() > 20);
    connection.revert_all_migrations(MIGRATIONS).unwrap();
    assert!(columns(connection).is_empty());
    connection.run_pending_migrations(MIGRATIONS).unwrap();
    assert_eq!(columns(connection), up);
}

/// A sheet stored before there were parameter sets reads as a woofer of the shelf, and goes back as it was.
fn old_sheets_become_woofers_of_the_shelf(store: &Store) {
    let c = &mut store.connect().unwrap();
    c.revert_last_migration(MIGRATIONS).unwrap();
    let sheet = serde_json::to_value(&design(60.0).woofer).unwrap();
    diesel::sql_query("INSERT INTO owner (id, name) VALUES ('00000000-0000-0000-0000-000000000001', 'old')")
        .execute(c)
        .unwrap();
    diesel::sql_query("INSERT INTO woofer (id, owner_id, name, maker, document) SELECT owner.id, owner.id, 'Test 12', '', $1 FROM owner")
        .bind::<diesel::sql_types::Jsonb, _>(&sheet)
        .execute(c)
        .unwrap();
    #[derive(QueryableByName)]
    struct Stored {
        #[diesel(sql_type = diesel::sql_types::Jsonb)]
        document: serde_json::Value,
    }
    let stored = |c: &mut PgConnection| {
        diesel::sql_query("SELECT document FROM woofer").get_result::<Stored>(c).unwrap().document
    };
    c.run_pending_migrations(MIGRATIONS).unwrap();
    let made = oak_drum_shelf::read_value(stored(c)).unwrap();
    assert_eq!(made, ShelfWoofer::from_sheet(&design(60.0).woofer));
    c.revert_last_migration(MIGRATIONS).unwrap();
    assert_eq!(stored(c), sheet);
    c.run_pending_migrations(MIGRATIONS).unwrap();
    diesel::sql_query("DELETE FROM woofer").execute(c).unwrap();
    diesel::sql_query("DELETE FROM owner").execute(c).unwrap();
}

fn the_demo_loads_once(store: &Store) {
    let c = &mut store.connect().unwrap();
    assert!(demo::load(c).unwrap());
    assert!(!demo::load(c).unwrap());
    let owner = owner::ensure(c, "another name").unwrap();
    assert_eq!(owner.name, demo::WORKSHOP);
    assert!(woofer::list(c, owner.id).unwrap().len() >= 16);
    let builds = build::list(c, owner.id).unwrap();
    assert_eq!(builds.len(), 7);
    assert_eq!(builds[0].letters, ["A", "B"]);
}

fn fresh(c: &mut PgConnection) -> build::BuildDetail {
    let owner = owner::ensure(c, "x").unwrap();
    build::create(c, owner.id, "Test", &[design(60.0)]).unwrap()
}

fn a_stale_save_changes_nothing(store: &Store) {
    let c = &mut store.connect().unwrap();
    let first = fresh(c).revisions.remove(0);
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

fn two_at_once_get_two_letters(store: &Store) {
    let id = fresh(&mut store.connect().unwrap()).build.id;
    std::thread::scope(|scope| {
        for _ in 0..4 {
            scope.spawn(|| revision::create(&mut store.connect().unwrap(), id, &design(50.0)).unwrap());
        }
    });
    let letters: Vec<String> =
        build::get(&mut store.connect().unwrap(), id).unwrap().revisions.into_iter().map(|r| r.letter).collect();
    assert_eq!(letters, ["A", "B", "C", "D", "E"]);
}

fn deleting_can_be_taken_back(store: &Store) {
    let c = &mut store.connect().unwrap();
    let detail = fresh(c);
    let (id, first) = (detail.build.id, detail.revisions[0].id);
    build::set_deleted(c, id, true).unwrap();
    assert!(matches!(build::get(c, id), Err(Error::NotFound("build"))));
    build::set_deleted(c, id, false).unwrap();
    revision::set_deleted(c, first, true).unwrap();
    assert!(build::get(c, id).unwrap().revisions.is_empty());
    revision::set_deleted(c, first, false).unwrap();
    assert_eq!(build::get(c, id).unwrap().revisions.len(), 1);
}

fn a_saved_revision_survives_a_crash_of_the_database(cluster: &Cluster, store: &Store) {
    let first = fresh(&mut store.connect().unwrap()).revisions.remove(0);
    let saved = revision::save(&mut store.connect().unwrap(), first.id, 1, &design(77.0)).unwrap();
    cluster.stop().unwrap();
    assert!(matches!(store.connect(), Err(Error::Away(_))));
    cluster.start_again().unwrap();
    cluster.crash_and_restart().unwrap();
    let after = revision::get(&mut store.connect().unwrap(), first.id).unwrap();
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
fn an_import_is_all_or_nothing(store: &Store) {
    let c = &mut store.connect().unwrap();
    let owner = owner::ensure(c, "x").unwrap().id;
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
            let c = &mut store.connect().unwrap();
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

fn a_woofer_is_saved_from_a_known_version(store: &Store) {
    let c = &mut store.connect().unwrap();
    let owner = owner::ensure(c, "x").unwrap().id;
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
fn a_trial_is_shared_lost_stopped_and_done(store: &Store) {
    let c = &mut store.connect().unwrap();
    let owner = owner::ensure(c, "x").unwrap().id;
    let made = build::create(c, owner, "Trial", &[design(60.0)]).unwrap();
    let keys: Vec<uuid::Uuid> = woofer::list(c, owner)
        .unwrap()
        .iter()
        .filter(|l| l.row.name.starts_with("Import"))
        .take(20)
        .map(|l| l.id)
        .collect();
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
