//! Which file of the project imports which.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use syn::visit::Visit;

/// Imports among files: from each to those it names.
pub type Imports = BTreeMap<String, BTreeSet<String>>;

/// The folder of the project.
pub fn project() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().expect("the project's folder")
}

/// Every file with an ending below a folder.
pub fn below(folder: &Path, endings: &[&str]) -> Vec<PathBuf> {
    let mut list = Vec::new();
    let mut folders = vec![folder.to_owned()];
    while let Some(next) = folders.pop() {
        for entry in std::fs::read_dir(&next).expect("a folder").flatten() {
            let path = entry.path();
            if path.is_dir() {
                folders.push(path);
            } else if endings.iter().any(|e| path.extension().is_some_and(|x| x == *e)) {
                list.push(path);
            }
        }
    }
    list.sort();
    list
}

/// The module a file of a crate is: `a::b` of `src/a/b.rs` and of `src/a/b/mod.rs`; empty for the root.
fn module(source: &Path, file: &Path) -> Vec<String> {
    let mut parts: Vec<String> = file
        .strip_prefix(source)
        .expect("a file of the crate")
        .with_extension("")
        .components()
        .map(|c| c.as_os_str().to_string_lossy().into_owned())
        .collect();
    if parts.last().is_some_and(|last| last == "mod")
        || matches!(parts.as_slice(), [one] if one == "lib" || one == "main")
    {
        parts.pop();
    }
    parts
}

/// What modules hand on of others: by module and name, the path it really has.
type HandedOn = BTreeMap<(Vec<String>, String), Vec<String>>;

struct Found<'a> {
    modules: &'a BTreeSet<Vec<String>>,
    /// Known once every file was looked at.
    handed_on: Option<&'a HandedOn>,
    here: Vec<String>,
    to: BTreeSet<Vec<String>>,
    /// What this module hands on.
    hands_on: HandedOn,
}

impl Found<'_> {
    /// A path as it is written in this module, from the root: `crate::…`, `super::…`, `self::…`, or a child of this module.
    fn rooted(&self, segments: &[String]) -> Option<Vec<String>> {
        let mut at = match segments.first().map(String::as_str) {
            Some("crate") => Vec::new(),
            Some("super" | "self") => self.here.clone(),
            Some(_) if self.modules.contains(&[self.here.as_slice(), &segments[..1]].concat()) => self.here.clone(),
            _ => return None,
        };
        for segment in segments {
            match segment.as_str() {
                "crate" | "self" => {}
                "super" => {
                    at.pop();
                }
                name => at.push(name.into()),
            }
        }
        Some(at)
    }

    /// The file a path leads to: the longest part of it that is one, or the one whose name is handed on there.
    fn path(&mut self, segments: &[String]) {
        let Some(mut whole) = self.rooted(segments) else { return };
        for _ in 0..8 {
            let long = (0..=whole.len()).rev().find(|n| self.modules.contains(&whole[..*n])).unwrap_or(0);
            let next = whole.get(long).and_then(|name| {
                self.handed_on?
                    .get(&(whole[..long].to_vec(), name.clone()))
                    .map(|real| [real, &whole[long + 1..]].concat())
            });
            match next {
                Some(real) => whole = real,
                None => {
                    whole.truncate(long);
                    break;
                }
            }
        }
        if whole != self.here && self.modules.contains(&whole) {
            self.to.insert(whole);
        }
    }

    /// A name handed on to whoever asks this module.
    fn hand_on(&mut self, before: &[String], tree: &syn::UseTree) {
        let with = |name: &syn::Ident| [before, &[name.to_string()]].concat();
        let (name, real) = match tree {
            syn::UseTree::Path(path) => return self.hand_on(&with(&path.ident), &path.tree),
            syn::UseTree::Group(group) => return group.items.iter().for_each(|tree| self.hand_on(before, tree)),
            syn::UseTree::Name(name) => (name.ident.to_string(), with(&name.ident)),
            syn::UseTree::Rename(name) => (name.rename.to_string(), with(&name.ident)),
            syn::UseTree::Glob(_) => return,
        };
        if let Some(real) = self.rooted(&real) {
            self.hands_on.insert((self.here.clone(), name), real);
        }
    }

    fn tree(&mut self, before: &[String], tree: &syn::UseTree) {
        let with = |name: &syn::Ident| [before, &[name.to_string()]].concat();
        match tree {
            syn::UseTree::Path(path) => self.tree(&with(&path.ident), &path.tree),
            syn::UseTree::Name(name) if name.ident == "self" => self.path(before),
            syn::UseTree::Name(name) => self.path(&with(&name.ident)),
            syn::UseTree::Rename(name) => self.path(&with(&name.ident)),
            syn::UseTree::Glob(_) => self.path(before),
            syn::UseTree::Group(group) => group.items.iter().for_each(|tree| self.tree(before, tree)),
        }
    }
}

impl<'a> Visit<'a> for Found<'_> {
    fn visit_item_mod(&mut self, item: &'a syn::ItemMod) {
        // what only tests import is no part of the house
        if item.ident != "tests" {
            syn::visit::visit_item_mod(self, item);
        }
    }
    fn visit_item_use(&mut self, item: &'a syn::ItemUse) {
        // what a module only hands on it need not use itself; whoever asks for it there is led on
        if matches!(item.vis, syn::Visibility::Inherited) {
            self.tree(&[], &item.tree);
        } else {
            self.hand_on(&[], &item.tree);
        }
    }
    fn visit_path(&mut self, path: &'a syn::Path) {
        let segments: Vec<String> = path.segments.iter().map(|s| s.ident.to_string()).collect();
        if segments.len() > 1 {
            self.path(&segments);
        }
        syn::visit::visit_path(self, path);
    }
    fn visit_macro(&mut self, item: &'a syn::Macro) {
        // the words of a macro are no tree: only what begins at the root is found in them
        let text = item.tokens.to_string();
        for (at, _) in text.match_indices("crate :: ") {
            let rest = text[at..].split(|c: char| !(c.is_alphanumeric() || c == '_' || c == ':' || c == ' '));
            let segments: Vec<String> =
                rest.take(1).flat_map(|path| path.split("::")).map(|s| s.trim().to_owned()).collect();
            self.path(&segments);
        }
        syn::visit::visit_macro(self, item);
    }
}

/// Imports among the files of a crate, named by their modules; the root is `crate`.
pub fn of_crate(folder: &Path) -> Imports {
    let source = folder.join("src");
    let files = below(&source, &["rs"]);
    let modules: BTreeSet<Vec<String>> = files.iter().map(|f| module(&source, f)).collect();
    let name = |module: &[String]| if module.is_empty() { "crate".into() } else { module.join("::") };
    let look = |handed_on: Option<&HandedOn>| {
        let (mut imports, mut all) = (Imports::new(), HandedOn::new());
        for file in &files {
            let here = module(&source, file);
            if here.last().is_some_and(|last| last == "tests") {
                continue;
            }
            let tree = syn::parse_file(&std::fs::read_to_string(file).expect("a file")).expect("Rust");
            let mut found = Found {
                modules: &modules,
                handed_on,
                here: here.clone(),
                to: BTreeSet::new(),
                hands_on: HandedOn::new(),
            };
            found.visit_file(&tree);
            imports.insert(name(&here), found.to.iter().map(|m| name(m)).collect());
            all.extend(found.hands_on);
        }
        (imports, all)
    };
    let (_, handed_on) = look(None);
    look(Some(&handed_on)).0
}

/// Imports among TypeScript files, named by their paths; only relative ones are of this project.
pub fn of_front_end(source: &Path) -> Imports {
    let files = below(source, &["ts", "tsx"]);
    let name = |path: &Path| path.strip_prefix(source).expect("a file").to_string_lossy().into_owned();
    let mut imports = Imports::new();
    for file in &files {
        let text = std::fs::read_to_string(file).expect("a file");
        let quoted = ["from \"", "import \"", "import(\""].iter().flat_map(|before| {
            text.split(before).skip(1).filter_map(|rest| rest.split('"').next()).filter(|path| path.starts_with('.'))
        });
        let to = quoted.filter_map(|path| {
            let plain = file.parent()?.join(path);
            ["", ".ts", ".tsx"].iter().find_map(|ending| {
                let file = PathBuf::from(format!("{}{ending}", plain.display())).canonicalize().ok()?;
                (file.is_file() && file.starts_with(source)).then(|| name(&file))
            })
        });
        imports.insert(name(file), to.collect());
    }
    imports
}

/// A circle of files, if there is one: each imports the next, the last the first.
pub fn circle(imports: &Imports) -> Option<Vec<String>> {
    fn walk<'a>(
        at: &'a str,
        imports: &'a Imports,
        path: &mut Vec<&'a str>,
        done: &mut BTreeSet<&'a str>,
    ) -> Option<Vec<String>> {
        if let Some(from) = path.iter().position(|p| *p == at) {
            return Some(path[from..].iter().map(|p| (*p).to_owned()).collect());
        }
        if !done.insert(at) {
            return None;
        }
        path.push(at);
        let found = imports.get(at).into_iter().flatten().find_map(|next| walk(next, imports, path, done));
        path.pop();
        found
    }
    let mut done = BTreeSet::new();
    imports.keys().find_map(|file| walk(file, imports, &mut Vec::new(), &mut done))
}
