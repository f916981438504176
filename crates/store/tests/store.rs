//! The store against a real PostgreSQL: saving, conflicts, crashes, migrations. One cluster for all of it.

use diesel::prelude::*;
use diesel_migrations::MigrationHarness;
use oak_drum_design::{Design, read_value};
use oak_drum_store::tables::{build, owner, revision, woofer};
use oak_drum_store::{Error, MIGRATIONS, Store, demo};
use oak_drum_testkit::Cluster;
use serde_json::json;

fn design(litres: f64) -> Design {
    read_value(json!({
        "format": "oak-drum-design", "version": 2,
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
    the_demo_loads_once(&store);
    a_stale_save_changes_nothing(&store);
    two_at_once_get_two_letters(&store);
    deleting_can_be_taken_back(&store);
    a_saved_revision_survives_a_crash_of_the_database(&cluster, &store);
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

fn the_demo_loads_once(store: &Store) {
    let c = &mut store.connect().unwrap();
    assert!(demo::load(c).unwrap());
    assert!(!demo::load(c).unwrap());
    let owner = owner::ensure(c, "another name").unwrap();
    assert_eq!(owner.name, demo::WORKSHOP);
    assert!(woofer::list(c, owner.id).unwrap().len() >= 16);
    let builds = build::list(c, owner.id).unwrap();
    assert_eq!(builds.len(), 3);
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
