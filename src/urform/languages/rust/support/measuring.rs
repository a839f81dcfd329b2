const BATCHES: usize = 9;

/// What glibc tells of its heap; `mallinfo2` is there from 2.33 on.
#[repr(C)]
struct Told {
    arena: usize,
    ordblks: usize,
    smblks: usize,
    hblks: usize,
    hblkhd: usize,
    usmblks: usize,
    fsmblks: usize,
    uordblks: usize,
    fordblks: usize,
    keepcost: usize,
}

extern "C" {
    fn mallinfo2() -> Told;
}

/// Prints what making one takes, or what many weigh, as one line of JSON: `time SECONDS`, or `memory NAME COUNT`.
fn measure<T>(name: &str, makers: &[&dyn Fn() -> Creation<T>]) -> Creation<()> {
    let asked: Vec<String> = std::env::args().collect();
    if asked[1] == "time" {
        let seconds = timed(makers[0], asked[2].parse().expect("a number of seconds"))?;
        println!("{{\"name\": \"{name}\", \"seconds\": {seconds:?}}}");
    } else if name == asked[2] {
        let bytes = weighed(makers, asked[3].parse().expect("a number of products"))?;
        println!("{{\"name\": \"{name}\", \"bytes\": {bytes}}}");
    }
    Ok(())
}

/// The language's own map, read by a key that it has.
fn map_read() -> Creation<()> {
    let held = std::collections::HashMap::from([("north".to_owned(), 1_u64)]);
    measure("map read", &[&|| Ok(held.get("north").copied())])
}

/// Seconds for one, batch by batch; each batch takes so many seconds, or so.
fn timed<T>(make: &dyn Fn() -> Creation<T>, seconds: f64) -> Creation<Vec<f64>> {
    let (mut count, mut taken) = (1_u64, batch(make, 1)?);
    while taken < seconds / 4.0 {
        count *= 2;
        taken = batch(make, count)?;
    }
    count = ((count as f64 * seconds / taken) as u64).max(1);
    (0..BATCHES).map(|_| Ok(batch(make, count)? / count as f64)).collect()
}

fn batch<T>(make: &dyn Fn() -> Creation<T>, count: u64) -> Creation<f64> {
    let started = std::time::Instant::now();
    for _ in 0..count {
        std::hint::black_box(make()?);
    }
    Ok(started.elapsed().as_secs_f64().max(1e-9))
}

/// Bytes that so many products take, with the vector that holds them.
fn weighed<T>(makers: &[&dyn Fn() -> Creation<T>], count: usize) -> Creation<usize> {
    for make in makers {
        std::hint::black_box(make()?);
    }
    let before = heap();
    let mut held = Vec::with_capacity(count);
    for number in 0..count {
        held.push(makers[number % makers.len()]()?);
    }
    let after = heap();
    std::hint::black_box(&held);
    Ok(after.saturating_sub(before))
}

fn heap() -> usize {
    let told = unsafe { mallinfo2() };
    told.uordblks + told.hblkhd
}
